// A rig as somebody else would have built it.
#include <algorithm>

#include "core/io/glb_write.h"
#include "demo/standins/made_up_base.h"

namespace veld {
namespace {

const std::pair<const char*, const char*> kNames[] = {
    {"pelvis", "hips"},   {"spine", "back"}, {"clavicle", "collar"}, {"upper_arm", "arm"},
    {"forearm", "elbow"}, {"hand", "wrist"}, {"thigh", "upper leg"}, {"shin", "knee"},
    {"foot", "ankle"},    {"toe", "ball"},   {"little", "pinky"},    {"jaw", "jaw bone"}};

// "upper_arm_l" -> "arm.L", "index_2_r" -> "index2.R"
std::string their_name(const std::string& name) {
    std::string stem = name, side;
    if (stem.ends_with("_l") || stem.ends_with("_r")) {
        side = stem.ends_with("_l") ? ".L" : ".R";
        stem.resize(stem.size() - 2);
    }
    std::string number;
    if (const auto at = stem.find_last_not_of("0123456789_"); at != std::string::npos) {
        number = stem.substr(at + 1);
        stem.resize(at + 1);
    }
    std::erase(number, '_');
    for (const auto& [ours, theirs] : kNames) {
        if (stem == ours) {
            stem = theirs;
            break;
        }
    }
    return stem + number + side;
}

}  // namespace

MadeUpRig rig_of(const MadeUpBase& base) {
    MadeUpRig out;
    out.joints.push_back({"floor", -1, Vec3::Zero()});
    std::vector<int> of(base.joints.size()), twist(base.joints.size(), -1);
    for (std::size_t j = 0; j < base.joints.size(); ++j) {
        const Joint& joint = base.joints[j];
        of[j] = static_cast<int>(out.joints.size());
        const std::string name = their_name(joint.name);
        out.joints.push_back(
            {name, joint.parent < 0 ? 0 : of[static_cast<std::size_t>(joint.parent)], joint.position});
        out.roles[joint.name] = name;
        if (!joint.name.starts_with("upper_arm") && !joint.name.starts_with("thigh")) continue;
        const auto next = std::find_if(base.joints.begin(), base.joints.end(),
                                       [&](const Joint& k) { return k.parent == static_cast<int>(j); });
        twist[j] = static_cast<int>(out.joints.size());
        out.joints.push_back({name + " twist", of[j], 0.5 * (joint.position + next->position)});
    }
    const std::size_t count = base.mesh.positions.size();
    out.weights.joint.resize(count);
    out.weights.weight.resize(count);
    for (std::size_t v = 0; v < count; ++v) {
        std::vector<std::pair<double, int>> all;
        for (std::size_t k = 0; k < 4; ++k) {
            const double w = base.weights.weight[v][k];
            const std::size_t j = base.weights.joint[v][k];
            if (w > 0) all.emplace_back(twist[j] < 0 ? w : 0.5 * w, of[j]);
            if (w > 0 && twist[j] >= 0) all.emplace_back(0.5 * w, twist[j]);
        }
        std::sort(all.rbegin(), all.rend());
        all.resize(std::min<std::size_t>(all.size(), 4));
        double sum = 0;
        for (const auto& [w, j] : all) sum += w;
        for (std::size_t k = 0; k < all.size(); ++k)
            out.weights.joint[v][k] = static_cast<std::uint16_t>(all[k].second),
            out.weights.weight[v][k] = all[k].first / sum;
    }
    return out;
}

std::string rigged_glb(const MadeUpBase& base, const MadeUpRig& rig) {
    GlbModel model;
    model.name = "figure";
    Mesh mesh = base.mesh;
    // glTF is metres, Y up
    const Similarity to_mm = base.from_mm.inverse();
    for (Vec3& p : mesh.positions) p = to_mm(p);
    model.mesh = &mesh;
    model.joints = &rig.joints;
    model.weights = &rig.weights;
    for (const auto& [name, move] : base.moves) model.targets.push_back({"their " + name, move, 0, {}});
    return glb_bytes(model);
}

}  // namespace veld
