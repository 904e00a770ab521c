// veldstone-cli pose take-out | stand
#include <algorithm>
#include <cmath>

#include "cli/amounts.h"
#include "cli/cli.h"
#include "core/base/file.h"
#include "core/fit/find_pose.h"
#include "core/io/mesh_write.h"
#include "core/morph/morph_file.h"
#include "core/rig/stock_poses.h"

namespace veld::cli {
namespace {

struct PoseOptions {
    std::string kit, shape, out, name;
    std::vector<std::string> morphs;
};

double degrees(const Mat3& turn) { return Eigen::AngleAxisd(turn).angle() * 180 / M_PI; }

int take_out(const PoseOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto shape = shape_or_mix(*kit, o.shape, o.morphs);
    if (!shape) return output.refuse(shape.error());
    const auto found = find_pose(*kit, *shape);
    if (!found) return output.refuse(found.error());
    const auto rest = found->turned.empty() ? Result<Points>(*shape) : without_pose(*kit, *shape, found->pose);
    if (!rest) return output.refuse(rest.error());
    auto morph = make_morph(*kit, *rest, o.name.empty() ? "at rest" : o.name);
    if (!morph) return output.refuse(morph.error());
    morph->origin = "Its pose taken out";
    if (auto ok = write_file(o.out, morph_text(*morph)); !ok) return output.refuse(ok.error());
    Json turned = Json::object();
    std::string text = found->turned.empty() ? "No joint is turned: the shape stands as the base.\n"
                                             : std::to_string(found->turned.size()) + " joints were turned:\n";
    for (const std::size_t j : found->turned) {
        const double angle = degrees(found->pose.turns[j]);
        turned[kit->joints[j].name] = angle;
        char line[120];
        std::snprintf(line, sizeof line, "  %-14s %5.1f degrees\n", kit->joints[j].name.c_str(), angle);
        text += line;
    }
    char left[120];
    std::snprintf(left, sizeof left, "What no turn explains, median: %.2f mm\n", found->left_mm);
    output.result({{"out", o.out}, {"turned", turned}, {"left_mm", found->left_mm}}, text + left);
    return 0;
}

int stand(const PoseOptions& o, const Output& output) {
    const auto kit = read_base_kit(o.kit);
    if (!kit) return output.refuse(kit.error());
    const auto shape = shape_or_mix(*kit, o.shape, o.morphs);
    if (!shape) return output.refuse(shape.error());
    const std::vector<StockPose> poses = stock_poses(kit->joints);
    if (poses.empty())
        return output.refuse(
            {ErrorCode::BadInput, "The kit has no arms, legs or fingers that could stand in a pose."});
    Json written = Json::array();
    for (const StockPose& pose : poses) {
        std::string name = pose.name;
        std::replace(name.begin(), name.end(), ' ', '_');
        Mesh mesh = kit->mesh;
        auto posed = in_pose(*kit, *shape, pose.pose);
        if (!posed) return output.refuse(posed.error());
        mesh.positions = std::move(*posed);
        const std::string path = o.out + "/" + name + ".obj";
        if (auto ok = write_mesh(path, mesh, 0.001); !ok) return output.refuse(ok.error());
        written.push_back(path);
    }
    output.result({{"written", written}}, std::to_string(poses.size()) + " poses written to " + o.out + "\n");
    return 0;
}

}  // namespace

void add_pose(CLI::App& app, const Output& output, int& exit_code) {
    auto o = std::make_shared<PoseOptions>();
    CLI::App* pose = app.add_subcommand("pose", "Poses taken out of shapes, and shapes in poses");
    pose->require_subcommand(1);
    CLI::App* takes = pose->add_subcommand(
        "take-out", "Finds the pose that a shape of the base stands in, and makes a morph without it");
    CLI::App* stands = pose->add_subcommand("stand", "A shape in the stock poses, one OBJ each");
    for (CLI::App* command : {takes, stands}) {
        command->add_option("--kit", o->kit, "Folder of the base kit")->required();
        command->add_option("--shape", o->shape, "A shape of the base (OBJ, PLY, GLB)");
        command->add_option("--morph", o->morphs, "Morph file, FILE or FILE=AMOUNT; several make a mix");
    }
    takes->add_option("--name", o->name, "Name of the morph");
    takes->add_option("--out", o->out, "Morph file to write")->required();
    stands->add_option("--out", o->out, "Folder to write into")->required()->check(CLI::ExistingDirectory);
    takes->callback([o, &output, &exit_code] { exit_code = take_out(*o, output); });
    stands->callback([o, &output, &exit_code] { exit_code = stand(*o, output); });
}

}  // namespace veld::cli
