// veldstone-cli inspect FILE: what is in a mesh, a base kit or a landmark file.
#include <cmath>
#include <filesystem>

#include "cli/cli.h"
#include "core/base/file.h"
#include "core/kit/base_kit.h"
#include "core/tidy/survey.h"

namespace veld::cli {
namespace {

std::string count(std::size_t n, const std::string& what) { return std::to_string(n) + " " + what + "\n"; }

int inspect_kit(const std::string& path, const Output& output) {
    const auto kit = read_base_kit(path);
    if (!kit) return output.refuse(kit.error());
    Json json = {{"kind", "base_kit"},
                 {"vertices", kit->mesh.vertex_count()},
                 {"faces", kit->mesh.face_count()},
                 {"uvs", kit->mesh.uvs.size()},
                 {"parts", kit->parts.size()},
                 {"regions", kit->regions.size()},
                 {"landmarks", kit->landmarks.size()},
                 {"curves", kit->curves.size()},
                 {"joints", kit->joints.size()},
                 {"expressions", kit->expressions.size()},
                 {"topology", kit->topology_key}};
    std::string text = "Base kit: everything agrees.\n";
    for (const auto& [key, value] : json.items()) {
        if (value.is_number()) text += "  " + key + ": " + value.dump() + "\n";
    }
    output.result(json, text);
    return 0;
}

int inspect_landmarks(const std::string& path, const Output& output) {
    const auto file = read_landmarks(path);
    if (!file) return output.refuse(file.error());
    Json json = {{"kind", "landmarks"},
                 {"unit", file->set.unit ? unit_name(*file->set.unit) : "unknown"},
                 {"points", file->set.points.size()},
                 {"curves", file->set.curves.size()},
                 {"unknown", file->unknown}};
    std::string text = count(file->set.points.size(), "points") + count(file->set.curves.size(), "curves");
    for (const std::string& note : file->notes) text += note + "\n";
    output.result(json, text);
    return 0;
}

int inspect_mesh(const std::string& path, const Output& output) {
    const auto file = read_mesh(path);
    if (!file) return output.refuse(file.error());
    const Mesh& mesh = file->mesh;
    const FrameGuess guess = guess_frame(mesh, path, {});
    const Survey look = survey(mesh, rough_upright(mesh, guess.unit, guess.up, kUsualCrownMm), terminal_progress());
    const TopologyReport& t = look.topology;
    const Box box = bounding_box(mesh.positions);
    std::size_t triangles = mesh.corner_vertex.size() - 2 * std::size_t{mesh.face_count()};
    const Vec3 size = box.size();
    Json json = {{"kind", "mesh"},
                 {"vertices", mesh.vertex_count()},
                 {"faces", mesh.face_count()},
                 {"triangles", triangles},
                 {"uvs", mesh.uvs.size()},
                 {"groups", mesh.group_names},
                 {"materials", mesh.materials.size()},
                 {"images", mesh.images.size()},
                 {"vertex_colours", !mesh.colours.empty()},
                 {"low", {box.low.x(), box.low.y(), box.low.z()}},
                 {"high", {box.high.x(), box.high.y(), box.high.z()}},
                 {"likely_unit", unit_name(guess.unit)},
                 {"unit_reason", guess.unit_reason},
                 {"likely_up", up_axis_name(guess.up)},
                 {"up_reason", guess.up_reason},
                 {"components", t.components},
                 {"holes", t.holes},
                 {"border_edges", t.border_edges},
                 {"non_manifold_edges", t.non_manifold_edges},
                 {"degenerate_faces", t.degenerate_faces},
                 {"duplicate_faces", t.duplicate_faces},
                 {"doubled_vertices", t.doubled_vertices},
                 {"unused_vertices", t.unused_vertices},
                 {"topology", topology_key(mesh)},
                 {"notes", file->notes}};
    char line[400];
    std::snprintf(line, sizeof line, "size %.4g x %.4g x %.4g, likely in %s (%s), %s up (%s)\n", size.x(), size.y(),
                  size.z(), unit_name(guess.unit), guess.unit_reason.c_str(), up_axis_name(guess.up),
                  guess.up_reason.c_str());
    std::string text = count(mesh.vertex_count(), "vertices") + count(mesh.face_count(), "faces") +
                       count(triangles, "triangles") + line + count(t.components, "components") +
                       count(t.holes, "holes") + count(t.non_manifold_edges, "non-manifold edges") +
                       count(t.degenerate_faces, "degenerate faces") + count(t.duplicate_faces, "duplicate faces") +
                       count(t.doubled_vertices, "vertices at one place with another (UV seams)") +
                       count(mesh.materials.size(), "materials") + count(mesh.images.size(), "textures");
    for (const std::string& note : file->notes) text += note + "\n";
    static constexpr const char* kWeight[] = {"fine", "note", "problem"};
    for (const Finding& f : look.findings) {
        const char* repairs = f.repaired_by ? tool_info(*f.repaired_by).name : "";
        json["findings"].push_back(
            {{"weight", kWeight[static_cast<int>(f.weight)]}, {"text", f.text}, {"repaired_by", repairs}});
        text += std::string(kWeight[static_cast<int>(f.weight)]) + ": " + f.text +
                (f.repaired_by ? " (tidy tool: " + std::string(repairs) + ")" : "") + "\n";
    }
    output.result(json, text);
    return 0;
}

}  // namespace

void add_inspect(CLI::App& app, const Output& output, int& exit_code) {
    auto* command = app.add_subcommand("inspect", "What is in a mesh, a base kit folder or a landmark file");
    auto path = std::make_shared<std::string>();
    command->add_option("FILE", *path, "OBJ, PLY, STL, GLB, glTF, a kit folder or a landmark file")->required();
    command->callback([path, &output, &exit_code] {
        if (std::filesystem::is_directory(*path) || file_name(*path) == "figure.json")
            exit_code = inspect_kit(*path, output);
        else if (lower_extension(*path) == ".json")
            exit_code = inspect_landmarks(*path, output);
        else
            exit_code = inspect_mesh(*path, output);
    });
}

}  // namespace veld::cli
