// veldstone-cli project make | add | show; fit has a file of its own
#include <filesystem>

#include "cli/cli.h"
#include "core/base/file.h"
#include "core/fit/settings_text.h"
#include "core/io/gather.h"
#include "core/landmark/photo_marks.h"
#include "core/morph/morph_file.h"
#include "core/project/sources.h"
#include "core/project/store.h"

namespace veld::cli {
namespace {

struct MakeOptions {
    std::string kit, out, subject, source, landmarks;
};

int make(const MakeOptions& o, const Output& output) {
    auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    ProjectState state = new_project(std::make_shared<BaseKit>(std::move(*kit)));
    if (!o.subject.empty()) state.subjects.push_back({o.subject, {}, {}});
    if (!o.source.empty()) {
        if (state.subjects.empty()) state.subjects.push_back({"Subject", {}, {}});
        Gathered gathered = gather(o.source);
        if (gathered.meshes.empty()) return output.refuse(gathered.errors.front());
        Source source = make_source(std::move(gathered.meshes.front()), *state.kit);
        if (!o.landmarks.empty()) {
            auto marks = read_landmarks(o.landmarks);
            if (!marks) return output.refuse(marks.error());
            source.landmarks = std::move(marks->set);
        }
        state.subjects.back().sources.push_back(std::move(source));
    }
    if (auto ok = save_project(o.out, state); !ok) return output.refuse(ok.error());
    output.result({{"out", o.out}, {"subjects", state.subjects.size()}}, "written: " + o.out + "\n");
    return 0;
}

struct AddOptions {
    std::string project, subject, source;
    std::vector<std::string> photos, marks, morphs;
};

// To a subject of that name, or a new one; it becomes the one worked on only when it is the first.
int add(const AddOptions& o, const Output& output) {
    auto project = load_project(o.project);
    if (!project) return output.refuse(project.error());
    ProjectState& state = project->state;
    auto subject = std::find_if(state.subjects.begin(), state.subjects.end(),
                                [&](const Subject& s) { return s.name == o.subject; });
    if (subject == state.subjects.end())
        subject = state.subjects.insert(state.subjects.end(), Subject{o.subject, {}, {}});
    if (!o.source.empty()) {
        Gathered gathered = gather(o.source);
        if (gathered.meshes.empty()) return output.refuse(gathered.errors.front());
        subject->sources.push_back(make_source(std::move(gathered.meshes.front()), *state.kit));
    }
    if (!o.photos.empty()) {
        auto photos = read_photos("portraits", o.photos);
        if (!photos) return output.refuse(photos.error());
        subject->photo_sets.push_back(std::move(*photos));
        PhotoSet& set = subject->photo_sets.back();
        for (const std::string& path : o.marks) {
            set.marks.emplace_back();
            if (path == "-") continue;
            auto bytes = read_file(path);
            if (!bytes) return output.refuse(bytes.error());
            auto marks = parse_photo_marks(bytes->view(), path);
            if (!marks) return output.refuse(marks.error());
            set.marks.back() = std::move(*marks);
        }
    }
    for (const std::string& path : o.morphs) {
        auto morph = read_morph(path, *state.kit);
        if (!morph) return output.refuse(morph.error());
        std::vector<std::string> taken;
        for (const BankEntry& e : state.bank) taken.push_back(e.morph->name);
        morph->name = free_name(morph->name, taken);
        state.bank.emplace_back();
        state.bank.back().morph = std::make_shared<Morph>(std::move(*morph));
    }
    if (auto ok = save_project(o.project, state); !ok) return output.refuse(ok.error());
    output.result({{"project", o.project}, {"subject", o.subject}}, "added to " + o.project + "\n");
    return 0;
}

int show(const std::string& path, const Output& output) {
    const auto project = load_project(path);
    if (!project) return output.refuse(project.error());
    const ProjectState& s = project->state;
    Json json = {{"kit", s.kit->folder},
                 {"autosave_is_newer", project->autosave_is_newer},
                 {"subjects", Json::array()},
                 {"bank", Json::array()}};
    std::string text = "kit: " + s.kit->folder + "\n";
    for (const Subject& subject : s.subjects) {
        Json j = {{"name", subject.name}, {"sources", Json::array()}, {"fits", Json::array()}};
        text += "subject " + subject.name + "\n";
        for (const Source& source : subject.sources) {
            j["sources"].push_back({{"name", source.name},
                                    {"vertices", source.mesh->vertex_count()},
                                    {"landmarks", source.landmarks.points.size()}});
            text += "  source " + source.name + ", " + std::to_string(source.landmarks.points.size()) + " landmarks\n";
        }
        for (const FitRecord& fit : subject.fits) {
            const bool current = &fit == subject.fit();
            j["fits"].push_back({{"name", fit.name},
                                 {"current", current},
                                 {"figures", Json::parse(figures_text(fit.figures))},
                                 {"settings", Json::parse(fit_settings_text(fit.settings))}});
            text += "  fit " + fit.name + (current ? ", worked on\n" : "\n");
        }
        json["subjects"].push_back(j);
    }
    for (const BankEntry& e : s.bank) {
        json["bank"].push_back({{"name", e.morph->name}, {"amount", e.amount}});
        text += "morph " + e.morph->name + "\n";
    }
    output.result(json, text);
    return 0;
}

}  // namespace

void add_project(CLI::App& app, const Output& output, int& exit_code) {
    auto* project = app.add_subcommand("project", "Make and look into project files");
    project->require_subcommand(1);
    auto o = std::make_shared<MakeOptions>();
    auto* make_command = project->add_subcommand("make", "A new project, optionally with a first subject and source");
    make_command->add_option("--kit", o->kit, "Folder of the base kit")->required();
    make_command->add_option("--out", o->out, "Project file to write")->required();
    make_command->add_option("--subject", o->subject, "Name of the first subject");
    make_command->add_option("--source", o->source, "Its first source");
    make_command->add_option("--landmarks", o->landmarks, "Landmark file of that source");
    make_command->callback([o, &output, &exit_code] { exit_code = make(*o, output); });
    auto a = std::make_shared<AddOptions>();
    auto* add_command = project->add_subcommand("add", "Add a subject, a source or photographs to a project");
    add_command->add_option("FILE", a->project, "Project file")->required();
    add_command->add_option("--subject", a->subject, "Name of the subject, there or new")->required();
    add_command->add_option("--source", a->source, "Scan or sculpt");
    add_command->add_option("--photos", a->photos, "Photographs of one sitting");
    add_command->add_option("--marks", a->marks, "Marks of those photographs, in their order; - for none");
    add_command->add_option("--morph", a->morphs, "Morph files for the project's bank");
    add_command->callback([a, &output, &exit_code] { exit_code = add(*a, output); });
    add_project_fit(*project, output, exit_code);
    auto path = std::make_shared<std::string>();
    auto* show_command = project->add_subcommand("show", "What a project holds");
    show_command->add_option("FILE", *path)->required();
    show_command->callback([path, &output, &exit_code] { exit_code = show(*path, output); });
}

}  // namespace veld::cli
