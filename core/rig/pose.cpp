#include "core/rig/pose.h"

namespace veld {

Pose rest_pose(const std::vector<Joint>& joints) { return {std::vector<Mat3>(joints.size(), Mat3::Identity()), Vec3::Zero()}; }

PosedJoints pose_joints(const std::vector<Joint>& joints, const Pose& pose) {
    PosedJoints out;
    for (std::size_t j = 0; j < joints.size(); ++j) {
        if (joints[j].parent < 0) {
            out.turn.push_back(pose.turns[j]);
            out.place.push_back(joints[j].position + (j == 0 ? pose.move : Vec3(Vec3::Zero())));
            continue;
        }
        const auto up = static_cast<std::size_t>(joints[j].parent);
        out.turn.push_back(out.turn[up] * pose.turns[j]);
        out.place.push_back(out(joints, up, joints[j].position));
    }
    return out;
}

Points skin(const Points& positions, const std::vector<Joint>& joints, const SkinWeights& weights, const Pose& pose) {
    const PosedJoints posed = pose_joints(joints, pose);
    Points out(positions.size(), Vec3::Zero());
    for (std::size_t v = 0; v < positions.size(); ++v) {
        for (std::size_t k = 0; k < 4; ++k) {
            if (weights.weight[v][k] > 0) out[v] += weights.weight[v][k] * posed(joints, weights.joint[v][k], positions[v]);
        }
    }
    return out;
}

}  // namespace veld
