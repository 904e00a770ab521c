#include "core/rig/pose.h"

namespace veld {

Pose rest_pose(const std::vector<Joint>& joints) {
    return {std::vector<Mat3>(joints.size(), Mat3::Identity()), Vec3::Zero(), {}};
}

Pose rest_of(const Pose& pose) {
    Pose out = pose;
    out.move = Vec3::Zero();
    for (Mat3& turn : out.turns) turn.setIdentity();
    return out;
}

PosedJoints pose_joints(const std::vector<Joint>& joints, const Pose& pose) {
    PosedJoints out;
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const Mat3 stretch = pose.stretch.empty() ? Mat3(Mat3::Identity()) : pose.stretch[j];
        if (joints[j].parent < 0) {
            out.turn.push_back(pose.turns[j]);
            out.linear.push_back(pose.turns[j] * stretch);
            out.place.push_back(joints[j].position + (j == 0 ? pose.move : Vec3(Vec3::Zero())));
            continue;
        }
        const auto up = static_cast<std::size_t>(joints[j].parent);
        out.turn.push_back(out.turn[up] * pose.turns[j]);
        out.linear.push_back(out.turn[j] * stretch);
        out.place.push_back(out(joints, up, joints[j].position));
    }
    return out;
}

Points skin(const Points& positions, const std::vector<Joint>& joints, const SkinWeights& weights, const Pose& pose) {
    const PosedJoints posed = pose_joints(joints, pose);
    Points out(positions.size(), Vec3::Zero());
    for (std::size_t v = 0; v < positions.size(); ++v) {
        for (std::size_t k = 0; k < 4; ++k) {
            if (weights.weight[v][k] > 0)
                out[v] += weights.weight[v][k] * posed(joints, weights.joint[v][k], positions[v]);
        }
    }
    return out;
}

namespace {

// The blended maps of one vertex: into the pose, and to where this build has it at rest.
struct VertexMaps {
    Mat3 turned = Mat3::Zero(), straight = Mat3::Zero();
    Vec3 moved = Vec3::Zero(), back = Vec3::Zero();
    // folded skin (an elbow bent flat) has no way back
    bool folded() const { return std::abs(turned.determinant()) < 1e-3 || std::abs(straight.determinant()) < 1e-3; }
};

std::vector<VertexMaps> vertex_maps(const std::vector<Joint>& joints, const SkinWeights& weights, const Pose& pose) {
    const PosedJoints posed = pose_joints(joints, pose), rest = pose_joints(joints, rest_of(pose));
    std::vector<VertexMaps> out(weights.weight.size());
    for (std::size_t v = 0; v < out.size(); ++v) {
        for (std::size_t k = 0; k < 4; ++k) {
            const double w = weights.weight[v][k];
            if (w <= 0) continue;
            const std::size_t j = weights.joint[v][k];
            out[v].turned += w * posed.linear[j],
                out[v].moved += w * (posed.place[j] - posed.linear[j] * joints[j].position);
            out[v].straight += w * rest.linear[j],
                out[v].back += w * (rest.place[j] - rest.linear[j] * joints[j].position);
        }
    }
    return out;
}

}  // namespace

Points unposed(const Points& positions, const std::vector<Joint>& joints, const SkinWeights& weights,
               const Pose& pose) {
    const auto maps = vertex_maps(joints, weights, pose);
    Points out = positions;
    for (std::size_t v = 0; v < out.size(); ++v) {
        const VertexMaps& m = maps[v];
        if (!m.folded()) out[v] = m.straight * (m.turned.inverse() * (positions[v] - m.moved)) + m.back;
    }
    return out;
}

Points posed_again(const Points& rest, const Points& before, const std::vector<Joint>& joints,
                   const SkinWeights& weights, const Pose& pose) {
    const auto maps = vertex_maps(joints, weights, pose);
    Points out = before;
    for (std::size_t v = 0; v < out.size(); ++v) {
        const VertexMaps& m = maps[v];
        if (!m.folded()) out[v] = m.turned * (m.straight.inverse() * (rest[v] - m.back)) + m.moved;
    }
    return out;
}

}  // namespace veld
