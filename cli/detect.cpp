// veldstone-cli detect: landmarks and guide curves of a scan or a photograph, found without a person.
#include "core/detect/detect.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/detect/photo_face.h"
#include "core/photo/profile.h"
#include "core/tidy/orient.h"

namespace veld::cli {
namespace {

struct DetectOptions {
    std::string source, kit, out, up = "auto", keep;
    bool report = false;
};

bool is_picture(const std::string& path) { return is_picture_name(path); }

Json trust_json(const LandmarkSet& set, const std::string& name) {
    const Trust t = set.trust_of(name);
    return {{"expected_mm", t.expected_mm}, {"spread_mm", t.spread_mm}, {"off_mm", t.off_mm}, {"unsure", unsure(t)}};
}

int detect_on_scan(const DetectOptions& o, const BaseKit& kit, const Progress& progress, const Output& output) {
    auto file = read_mesh(o.source);
    if (!file) return output.refuse(file.error());
    const FrameGuess guess = guess_frame(file->mesh, o.source, {});
    DetectInput input;
    input.kit = &kit;
    input.source = &file->mesh;
    input.upright = rough_upright(file->mesh, guess.unit, o.up == "auto" ? guess.up : *up_axis_from_name(o.up),
                                  bounding_box(kit.mesh.positions).high.y());
    LandmarkSet set;
    if (!o.keep.empty()) {
        auto kept = read_landmarks(o.keep);
        if (!kept) return output.refuse(kept.error());
        set = std::move(kept->set);
    }
    FaceNetwork network;
    const auto found = detect_landmarks(network, input, progress);
    if (!found) return output.refuse(found.error());
    const int put = merge_found(*found, set);
    if (!set.unit) set.unit = guess.unit;
    if (auto ok = write_file(o.out, landmarks_text(set)); !ok) return output.refuse(ok.error());
    Json json = {{"source", o.source},
                 {"kit", o.kit},
                 {"written", o.out},
                 {"found", put},
                 {"evaluations", found->evaluations},
                 {"seconds", found->seconds},
                 {"figure", found->figure},
                 {"joints", found->set.joints.size()},
                 {"preset", preset_for(*found, {})},
                 {"coloured", found->coloured},
                 {"mouth_gap_mm", found->mouth_gap_mm},
                 {"lids", told_lids(*found)},
                 {"not_skin", {{"share", found->not_skin_share}, {"covered", found->covered}}},
                 {"not_seen", found->not_seen}};
    std::vector<std::pair<double, std::string>> doubted;
    for (const auto& [name, t] : found->set.trust) {
        json["trust"][name] = trust_json(found->set, name);
        if (unsure(t)) doubted.emplace_back(t.expected_mm, name);
    }
    json["left_out"] = found->left_out;
    json["notes"] = found->notes;
    std::sort(doubted.rbegin(), doubted.rend());
    std::string text = std::to_string(found->set.points.size()) + " points and " +
                       std::to_string(found->set.curves.size()) + " curves found, " + std::to_string(doubted.size()) +
                       " of them unsure\n";
    if (o.report) {
        for (const auto& [mm, name] : doubted) {
            char line[160];
            std::snprintf(line, sizeof line, "  unsure: %s, may be %.1f mm off\n",
                          landmark_scheme().plain(name).c_str(), mm);
            text += line;
        }
        for (const auto& [name, why] : found->left_out)
            text += "  left out: " + landmark_scheme().plain(name) + ": " + why + "\n";
    }
    for (const std::string& note : found->notes) text += note + "\n";
    output.result(json, text);
    return 0;
}

int detect_on_photo(const DetectOptions& o, const BaseKit& kit, const Progress& progress, const Output& output) {
    auto photo = read_photo(o.source);
    if (!photo) return output.refuse(photo.error());
    FaceNetwork network;
    const auto found = find_on_photo(network, kit, *photo, nullptr, 0, nullptr, progress);
    if (!found) return output.refuse(found.error());
    if (auto ok = write_file(o.out, photo_marks_text(found->marks)); !ok) return output.refuse(ok.error());
    Json json = {{"source", o.source},
                 {"kit", o.kit},
                 {"written", o.out},
                 {"found", found->marks.points.size() + found->marks.curves.size()},
                 {"evaluations", found->evaluations},
                 {"yaw_degrees", found->yaw},
                 {"by_outline", found->by_outline}};
    for (const auto& [name, t] : found->marks.trust)
        json["trust"][name] = {{"expected_px", t.expected_mm}, {"unsure", unsure_in_photo(t, found->marks)}};
    json["left_out"] = found->left_out;
    std::string text =
        std::to_string(found->marks.points.size()) + " points and " + std::to_string(found->marks.curves.size()) +
        " curves found" +
        (found->by_outline ? ", from the side by the head's outline: rougher than from the front\n" : "\n");
    for (const auto& [name, why] : found->left_out) {
        if (o.report) text += "  left out: " + landmark_scheme().plain(name) + ": " + why + "\n";
    }
    output.result(json, text);
    return 0;
}

int run(const DetectOptions& o, const Output& output) {
    const Progress progress = terminal_progress();  // first: Ctrl-C is heard while the kit is read, too
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    return is_picture(o.source) ? detect_on_photo(o, *kit, progress, output)
                                : detect_on_scan(o, *kit, progress, output);
}

}  // namespace

void add_detect(CLI::App& app, const Output& output, int& exit_code) {
    auto* command = app.add_subcommand("detect", "Find landmarks and guide curves on a scan or a photograph");
    auto o = std::make_shared<DetectOptions>();
    command->add_option("SOURCE", o->source, "Scan or sculpt (OBJ, PLY, STL, GLB, glTF), or a photograph (JPEG, PNG)")
        ->required();
    command->add_option("--kit", o->kit, "Folder of the base kit")->required();
    command->add_option("--out", o->out, "Where the landmarks are written (JSON)")->required();
    command->add_option("--up", o->up, "Axis of the source that points up; only what is tried first")
        ->check(CLI::IsMember({"auto", "+X", "-X", "+Y", "-Y", "+Z", "-Z"}));
    command->add_option("--keep", o->keep, "Landmark file whose points by hand stay as they are");
    command->add_flag("--report", o->report, "Say which points are unsure or were left out, and why");
    command->callback([o, &output, &exit_code] { exit_code = run(*o, output); });
}

}  // namespace veld::cli
