// veldstone-cli project fit: a new try in a project, from the beginning or going on from the current one.
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/fit/fit.h"
#include "core/fit/presets.h"
#include "core/fit/settings_text.h"
#include "core/project/fits.h"
#include "core/project/store.h"

namespace veld::cli {
namespace {

struct FitOptions {
    std::string project, subject, settings, preset, landmarks, work_on;
    bool go_on = false;
};

Status prepare(const FitOptions& o, ProjectState& state) {
    for (std::size_t i = 0; i < state.subjects.size(); ++i) {
        if (o.subject.empty() || state.subjects[i].name == o.subject) {
            if (!o.subject.empty()) state.subject = static_cast<int>(i);
            break;
        }
        if (i + 1 == state.subjects.size())
            return Error{ErrorCode::BadInput, "'" + o.project + "' has no subject '" + o.subject + "'."};
    }
    if (!state.source())
        return Error{ErrorCode::BadInput,
                     "There is no source to fit to in '" + o.project + "'. Add one with 'project add'."};
    if (!o.work_on.empty()) {
        Subject& subject = *state.current();
        const auto at = std::find_if(subject.fits.begin(), subject.fits.end(),
                                     [&](const FitRecord& f) { return f.name == o.work_on; });
        if (at == subject.fits.end())
            return Error{ErrorCode::BadInput, "There is no fit '" + o.work_on + "'. 'project show' lists them."};
        subject.current_fit = static_cast<int>(at - subject.fits.begin());
    }
    if (!o.preset.empty()) {
        auto preset = fit_preset(o.preset);
        if (!preset) return preset.error();
        state.settings = *preset;
    }
    if (!o.settings.empty()) {
        auto bytes = read_file(o.settings);
        if (!bytes) return bytes.error();
        auto settings = parse_fit_settings(bytes->view(), "'" + o.settings + "'");
        if (!settings) return settings.error();
        state.settings = *settings;
    }
    if (!o.landmarks.empty()) {
        auto marks = read_landmarks(o.landmarks);
        if (!marks) return marks.error();
        state.current()->sources.back().landmarks = std::move(marks->set);
    }
    return Done{};
}

int run(const FitOptions& o, const Output& output) {
    auto project = load_project(o.project);
    if (!project) return output.refuse(project.error());
    ProjectState& state = project->state;
    if (auto ok = prepare(o, state); !ok) return output.refuse(ok.error());
    const Source& source = *state.source();
    FitInput input{state.kit.get(), state.base_points, source.mesh.get(),    source.landmarks,
                   source.unit,     state.settings,    source.ignored.get(), state.base_curves};
    input.not_skin = source.not_skin.get();
    const auto start = o.go_on ? start_from(state, {}) : std::nullopt;
    if (o.go_on && (!start || state.fit()->source_id != source.id))
        return output.refuse(
            {ErrorCode::BadInput, "There is no fit of '" + source.name + "' to refine. Leave --refine away."});
    double solved = 1;
    auto fit = start ? refit(input, *start, terminal_progress(), &solved) : run_fit(input, terminal_progress());
    if (!fit) return output.refuse(fit.error());
    std::vector<std::string> taken;
    for (const FitRecord& f : state.current()->fits) taken.push_back(f.name);
    const FitRecord* last = state.fit();
    const auto touch = last && last->source_id == source.id ? last->touch : nullptr;
    FitRecord record = make_record(*state.kit, std::move(*fit), source, taken, touch);
    const Json json = {{"try", record.name},
                       {"solved", solved},
                       {"figures", Json::parse(figures_text(record.figures))},
                       {"notes", record.notes}};
    char text[256];
    std::snprintf(text, sizeof text,
                  "%s: median %.3f mm, 95 %% within %.3f mm, flips %u, new self-intersections %u; %.0f %% of the "
                  "surface was solved\n",
                  record.name.c_str(), record.figures.surface.median, record.figures.surface.p95,
                  record.figures.flipped_faces, record.figures.self_intersections, 100 * solved);
    add_fit(*state.current(), std::move(record));
    if (auto ok = save_project(o.project, state); !ok) return output.refuse(ok.error());
    output.result(json, text);
    return 0;
}

}  // namespace

void add_project_fit(CLI::App& project, const Output& output, int& exit_code) {
    auto o = std::make_shared<FitOptions>();
    auto* command = project.add_subcommand("fit", "Fit a subject's last source; it is kept beside the others");
    command->add_option("FILE", o->project, "Project file")->required();
    command->add_option("--subject", o->subject, "Name of the subject (default: the current one)");
    command->add_option("--landmarks", o->landmarks, "Landmark file of the source, instead of its own");
    auto* settings =
        command->add_option("--settings", o->settings, "Fit settings from this JSON file (default: the project's)");
    command->add_option("--preset", o->preset, "Settings for: head-scan, clothed-bust, stylised, body, landmarks-only")
        ->excludes(settings);
    command->add_option("--current,--work-on", o->work_on, "Make this fit current first");
    command->add_flag("--refine,--go-on", o->go_on,
                      "Refine the current fit: only what a change reaches is solved again");
    command->callback([o, &output, &exit_code] { exit_code = run(*o, output); });
}

}  // namespace veld::cli
