// veldstone-cli wrap: the base mesh of a kit onto a scan, with a report of how good it is.
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/detect/detect.h"
#include "core/exchange/export.h"
#include "core/fit/fit.h"
#include "core/fit/presets.h"
#include "core/fit/settings_text.h"
#include "core/tidy/recipe.h"

namespace veld::cli {
namespace {

struct WrapOptions {
    std::string kit, source, landmarks, out, frame = "kit", part, unit = "auto", up = "auto", report, settings, preset,
                                             tidy, keep_marks;
    bool swap_sides = false, true_size = false, match_all = false;
};

struct Inputs {
    BaseKit kit;
    Mesh source;
    LandmarkSet landmarks;
    FitSettings settings;
    std::optional<Unit> unit;
    Mat3 to_y_up = Mat3::Identity();
    std::shared_ptr<const VertexMask> ignored;
    std::vector<std::string> notes;
    std::optional<Detection> found;  // where no landmark file was given
};

Status read_settings(const WrapOptions& o, Inputs& in) {
    if (!o.preset.empty()) {
        auto preset = fit_preset(o.preset);
        if (!preset) return preset.error();
        in.settings = *preset;
    }
    if (!o.settings.empty()) {
        auto bytes = read_file(o.settings);
        if (!bytes) return bytes.error();
        auto settings = parse_fit_settings(bytes->view(), "'" + o.settings + "'");
        if (!settings) return settings.error();
        in.settings = *settings;
    }
    if (o.part == "head") in.settings.part = FitPart::Head;
    if (o.part == "body") in.settings.part = FitPart::Body;
    if (o.part == "all") in.settings.part = FitPart::All;
    if (o.true_size) in.settings.keep_true_size = true;
    return Done{};
}

// The recipe's steps before the fit: cleaning, and areas that are never matched.
Status tidy(const WrapOptions& o, Inputs& in) {
    auto bytes = read_file(o.tidy);
    if (!bytes) return bytes.error();
    auto steps = parse_recipe(bytes->view(), o.tidy);
    if (!steps) return steps.error();
    const FrameGuess guess = guess_frame(in.source, o.source, in.landmarks);
    const UpAxis up = o.up == "auto" ? guess.up : *up_axis_from_name(o.up);
    TidyState state;
    state.to_upright =
        rough_upright(in.source, in.unit.value_or(guess.unit), up, bounding_box(in.kit.mesh.positions).high.y());
    state.mesh = std::make_shared<Mesh>(std::move(in.source));
    auto done = run_recipe(std::move(state), *steps, &in.kit, terminal_progress());
    if (!done) return done.error();
    in.source = *done->state.mesh;
    in.ignored = done->state.ignored;
    in.notes.insert(in.notes.end(), done->said.begin(), done->said.end());
    return Done{};
}

// Nobody marked the source: landmarks are found on it, and what they doubt is said.
Status find_marks(const WrapOptions& o, Inputs& in) {
    if (o.source.empty())
        return Error{ErrorCode::BadInput, "Give --landmarks: without a --source there is nothing to find them on."};
    const FrameGuess guess = guess_frame(in.source, o.source, {});
    DetectInput input;
    input.kit = &in.kit, input.source = &in.source, input.ignored = in.ignored.get();
    input.upright = rough_upright(in.source, in.unit.value_or(guess.unit), o.up == "auto" ? guess.up : UpAxis::PlusY,
                                  bounding_box(in.kit.mesh.positions).high.y());
    FaceNetwork network;
    auto found = detect_landmarks(network, input, terminal_progress());
    if (!found) return found.error();
    in.landmarks = found->set;
    if (!in.unit) in.unit = guess.unit;
    in.landmarks.unit = in.unit;
    int doubted = 0;
    for (const auto& [name, p] : found->set.points) doubted += unsure(found->set.trust_of(name));
    in.notes.push_back(std::to_string(found->set.points.size()) + " landmarks were found, " + std::to_string(doubted) +
                       " of them unsure" + (o.keep_marks.empty() ? "." : "; written to " + o.keep_marks + "."));
    in.notes.insert(in.notes.end(), found->notes.begin(), found->notes.end());
    for (const std::string& region : leave_out_unseen(*found, in.kit, in.settings))
        in.notes.push_back("Nothing was matched at '" + region +
                           "': it is covered or missing. It follows what is seen.");
    if (o.part.empty() && !preset_for(*found, in.settings).empty())
        in.notes.push_back("The source is a whole figure, and its head is fitted; --preset body fits all of it.");
    if (!found->not_skin.empty() && !o.match_all) {
        in.ignored = std::make_shared<VertexMask>(found->not_skin);
        in.notes.push_back(what_is_left_out(*found) + " It is not matched; --match-all matches it.");
    }
    Status written = Done{};
    if (!o.keep_marks.empty()) {
        LandmarkSet kept = in.landmarks;  // in the file's own axes
        for (auto& [name, p] : kept.points) p = in.to_y_up.transpose() * p;
        for (auto& [name, line] : kept.curves) {
            for (Vec3& p : line) p = in.to_y_up.transpose() * p;
        }
        for (auto& [name, joint] : kept.joints) joint.at = in.to_y_up.transpose() * joint.at;
        written = write_file(o.keep_marks, landmarks_text(kept));
    }
    in.found = std::move(*found);
    return written;
}

Result<Inputs> read_inputs(const WrapOptions& o) {
    Inputs in;
    if (auto ok = read_settings(o, in); !ok) return ok.error();
    auto kit = read_base_kit(o.kit);
    if (!kit) return kit.error();
    in.kit = std::move(*kit);
    if (!o.source.empty()) {
        auto source = read_mesh(o.source);
        if (!source) return source.error();
        in.source = std::move(source->mesh);
        in.notes = source->notes;
    } else if (in.settings.use_surface) {
        return Error{ErrorCode::BadInput, "Give a --source, or fit by landmarks alone with --preset landmarks-only."};
    }
    if (!o.landmarks.empty()) {
        auto marks = read_landmarks(o.landmarks);
        if (!marks) return marks.error();
        in.landmarks = o.swap_sides ? swap_sides(marks->set) : std::move(marks->set);
        in.notes.insert(in.notes.end(), marks->notes.begin(), marks->notes.end());
    }
    const std::string extension = lower_extension(o.source);
    if (o.unit != "auto")
        in.unit = unit_from_name(o.unit);
    else if (extension == ".glb" || extension == ".gltf")
        in.unit = Unit::Metre;  // the format says so
    else
        in.unit = in.landmarks.unit;
    if (!o.tidy.empty() && !o.source.empty()) {
        if (auto ok = tidy(o, in); !ok) return ok.error();
    }
    if (o.up != "auto") {
        // landmarks find the turn by themselves; a given axis is applied first and undone on the way out
        in.to_y_up = rotation_to_y_up(*up_axis_from_name(o.up));
        for (Vec3& p : in.source.positions) p = in.to_y_up * p;
        for (auto& [name, p] : in.landmarks.points) p = in.to_y_up * p;
        for (auto& [name, line] : in.landmarks.curves) {
            for (Vec3& p : line) p = in.to_y_up * p;
        }
        for (auto& [name, joint] : in.landmarks.joints) joint.at = in.to_y_up * joint.at;
    }
    if (o.landmarks.empty()) {
        if (auto ok = find_marks(o, in); !ok) return ok.error();
    }
    return in;
}

Json report(const FitResult& fit, const Inputs& in, const WrapOptions& o) {
    Json json = Json::parse(figures_text(fit.figures));
    Json rotation = Json::array();
    const Mat3 turn = fit.placement.source_to_kit.rotation * in.to_y_up;
    for (int i = 0; i < 9; ++i) rotation.push_back(turn(i / 3, i % 3));
    const Vec3& t = fit.placement.source_to_kit.translation;
    json["placement"] = {
        {"unit", unit_name(fit.placement.unit)},  {"unit_reason", fit.placement.unit_reason},   {"up", o.up},
        {"size_ratio", fit.placement.size_ratio}, {"scale", fit.placement.source_to_kit.scale}, {"rotation", rotation},
        {"translation", {t.x(), t.y(), t.z()}}};
    std::vector<std::string> notes = in.notes;
    notes.insert(notes.end(), fit.notes.begin(), fit.notes.end());
    json["notes"] = notes;
    if (in.found) {
        json["found"] = {{"left_out", in.found->left_out},
                         {"not_seen", in.found->not_seen},
                         {"not_skin", {{"share", in.found->not_skin_share}, {"covered", in.found->covered}}},
                         {"mouth_gap_mm", in.found->mouth_gap_mm},
                         {"lids", told_lids(*in.found)}};
        for (const auto& [name, p] : in.found->set.points)
            json["found"]["expected_mm"][name] = in.found->set.trust_of(name).expected_mm;
    }
    json["settings"] = Json::parse(fit_settings_text(fit.settings));
    json["kit"] = o.kit, json["source"] = o.source, json["landmarks"] = o.landmarks, json["frame"] = o.frame;
    return json;
}

std::string summary(const FitFigures& f) {
    char text[512];
    std::snprintf(text, sizeof text,
                  "to the source: median %.3f mm, 95 %% within %.3f mm, worst %.2f mm\n"
                  "landmarks: rms %.2f mm, worst %.2f mm\ncovered by the source: %.1f %%\n"
                  "flipped faces: %u, new self-intersections: %u\n",
                  f.surface.median, f.surface.p95, f.surface.max, f.landmark_rms, f.landmark_max, 100 * f.coverage,
                  f.flipped_faces, f.self_intersections);
    return text;
}

int run(const WrapOptions& o, const Output& output) {
    auto in = read_inputs(o);
    if (!in) return output.refuse(in.error());
    FitInput input{&in->kit,         {},       o.source.empty() ? nullptr : &in->source,
                   in->landmarks,    in->unit, in->settings,
                   in->ignored.get()};
    if (in->found && !in->found->not_skin.empty()) input.not_skin = &in->found->not_skin;  // though all is matched
    const auto fit = run_fit(input, terminal_progress());
    if (!fit) return output.refuse(fit.error());
    const std::string what = "Base mesh wrapped onto " + file_name(o.source.empty() ? o.landmarks : o.source);
    Status written = Done{};
    if (o.frame == "source") {
        Points shape = in_source_frame(*fit);
        for (Vec3& p : shape) p = in->to_y_up.transpose() * p;
        written = export_placed_obj(in->kit, shape, what + "; in the source's own coordinates and unit", o.out);
    } else {
        const std::string frame = fit->pose ? "; in the kit's frame, the pose taken out" : "; in the kit's frame";
        written = export_shape_obj(in->kit, at_rest(in->kit, fit->positions, fit->pose, fit->settings.shut_mouth),
                                   what + frame, o.out);
    }
    if (!written) return output.refuse(written.error());
    const Json json = report(*fit, *in, o);
    if (!o.report.empty()) {
        if (auto ok = write_file(o.report, json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n"); !ok)
            return output.refuse(ok.error());
    }
    std::string text = summary(fit->figures);
    for (const auto& note : json["notes"]) text += note.get<std::string>() + "\n";
    output.result(json, text);
    return 0;
}

}  // namespace

void add_wrap(CLI::App& app, const Output& output, int& exit_code) {
    auto* command = app.add_subcommand("wrap", "Wrap the kit's base mesh onto a scan");
    auto o = std::make_shared<WrapOptions>();
    command->add_option("--kit", o->kit, "Folder of the base kit")->required();
    command->add_option("--source", o->source,
                        "Scan or sculpt: OBJ, PLY, STL, GLB, glTF; not needed for a fit by landmarks alone");
    command->add_option("--landmarks", o->landmarks,
                        "Landmark file of the source, in its coordinates; without one they are found on the source");
    command->add_option("--keep-landmarks", o->keep_marks, "Write the landmarks that were found to this file")
        ->excludes("--landmarks");
    command->add_option("--out", o->out, "Where the fit is written (OBJ, order of the base)")->required();
    command->add_option("--frame", o->frame, "kit: base frame in mm; source: the source's coordinates and unit")
        ->check(CLI::IsMember({"kit", "source"}));
    command->add_option("--part", o->part, "What is fitted; the rest of the base stays (default head)")
        ->check(CLI::IsMember({"head", "body", "all"}));
    command->add_option("--unit", o->unit, "Unit of the source")
        ->check(CLI::IsMember({"auto", "mm", "cm", "m", "in", "dm", "ft"}));
    command->add_option("--up", o->up, "Axis of the source that points up")
        ->check(CLI::IsMember({"auto", "+X", "-X", "+Y", "-Y", "+Z", "-Z"}));
    command->add_option("--report", o->report, "Write figures and settings to this JSON file");
    auto* settings = command->add_option("--settings", o->settings, "Read fit settings from this JSON file");
    command
        ->add_option("--preset", o->preset,
                     "Begin with settings for: head-scan, clothed-bust, stylised, body, landmarks-only")
        ->excludes(settings);
    command->add_option("--tidy", o->tidy,
                        "Run this tidy recipe on the source first (in memory); ignored areas are not matched");
    command->add_flag("--match-all", o->match_all, "Match hair, caps and the like too")->excludes("--landmarks");
    command->add_flag("--swap-sides", o->swap_sides, "Exchange left and right of the landmarks")->needs("--landmarks");
    command->add_flag("--true-size", o->true_size, "Keep the subject's true size instead of the base's");
    command->callback([o, &output, &exit_code] { exit_code = run(*o, output); });
}

}  // namespace veld::cli
