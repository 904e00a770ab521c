// The demo's short motions, made by a few key poses of the kit's own joints, as BVH files.
#include <CLI/CLI.hpp>
#include <Eigen/Geometry>
#include <cmath>
#include <cstdio>

#include "core/base/file.h"
#include "core/kit/base_kit.h"
#include "core/proof/proofs.h"
#include "core/rig/bvh.h"
#include "core/rig/stock_poses.h"

using namespace veld;

namespace {

constexpr int kFrames = 30;

// From one key to the next and back to the first, eased.
Motion through(const BaseKit& kit, const std::vector<Pose>& keys) {
    Motion out{kit.joints, {}, 1.0 / 30};
    const auto many = static_cast<double>(keys.size());
    for (int f = 0; f < kFrames; ++f) {
        const double at = many * f / kFrames, share = at - std::floor(at);
        const auto from = static_cast<std::size_t>(at), to = (from + 1) % keys.size();
        const double eased = share * share * (3 - 2 * share);
        out.turns.push_back(between({keys[from], {}}, {keys[to], {}}, eased).pose.turns);
    }
    return out;
}

Pose mirrored(const BaseKit& kit, const Pose& pose) {
    Pose out = pose;
    const Mat3 flip = Vec3(-1, 1, 1).asDiagonal();
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        std::string other = kit.joints[j].name;
        if (other.ends_with("_l"))
            other.back() = 'r';
        else if (other.ends_with("_r"))
            other.back() = 'l';
        for (std::size_t k = 0; k < kit.joints.size(); ++k)
            if (kit.joints[k].name == other) out.turns[k] = flip * pose.turns[j] * flip;
    }
    return out;
}

}  // namespace

int main(int argc, char** argv) {
    CLI::App app("Writes three short motions of a kit's joints: arms.bvh, steps.bvh, head.bvh.");
    std::string kit_folder, out;
    app.add_option("--kit", kit_folder, "Folder of the base kit")->required();
    app.add_option("--out", out, "Folder to write into")->required()->check(CLI::ExistingDirectory);
    CLI11_PARSE(app, argc, argv);
    const auto kit = read_base_kit(kit_folder);
    if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
    std::map<std::string, Pose> stock;
    for (StockPose& pose : stock_poses(kit->joints)) stock[pose.name] = std::move(pose.pose);
    const Pose rest = rest_pose(kit->joints);
    const std::map<std::string, Motion> all = {
        {"arms", through(*kit, {rest, stock["T"], stock["arms up"], stock["reach"]})},
        {"steps", through(*kit, {stock["A"], stock["stride"], stock["A"], mirrored(*kit, stock["stride"]), stock["A"],
                                 stock["squat"]})},
        {"head", through(*kit, {rest, stock["head turned"], rest, mirrored(*kit, stock["head turned"]), rest,
                                stock["head nodded"], rest, stock["head tilted"]})}};
    for (const auto& [name, motion] : all)
        if (auto ok = write_file(out + "/" + name + ".bvh", bvh_text(motion)); !ok)
            return std::fprintf(stderr, "%s\n", ok.error().message.c_str()), 1;
    return 0;
}
