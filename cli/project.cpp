// veldstone-cli project make | show
#include <filesystem>

#include "cli/cli.h"
#include "core/io/file.h"
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

int show(const std::string& path, const Output& output) {
    const auto project = load_project(path);
    if (!project) return output.refuse(project.error());
    const ProjectState& s = project->state;
    Json json = {{"kit", s.kit->folder}, {"autosave_is_newer", project->autosave_is_newer}, {"subjects", Json::array()}, {"bank", Json::array()}};
    std::string text = "kit: " + s.kit->folder + "\n";
    for (const Subject& subject : s.subjects) {
        Json j = {{"name", subject.name}, {"sources", Json::array()}, {"fits", Json::array()}};
        text += "subject " + subject.name + "\n";
        for (const Source& source : subject.sources) {
            j["sources"].push_back({{"name", source.name}, {"vertices", source.mesh->vertex_count()}, {"landmarks", source.landmarks.points.size()}});
            text += "  source " + source.name + ", " + std::to_string(source.landmarks.points.size()) + " landmarks\n";
        }
        for (const FitRecord& fit : subject.fits) {
            j["fits"].push_back({{"name", fit.name}, {"figures", Json::parse(figures_text(fit.figures))}});
            text += "  fit " + fit.name + "\n";
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
    auto path = std::make_shared<std::string>();
    auto* show_command = project->add_subcommand("show", "What a project holds");
    show_command->add_option("FILE", *path)->required();
    show_command->callback([path, &output, &exit_code] { exit_code = show(*path, output); });
}

}  // namespace veld::cli
