#pragma once
// Bending a skeleton and the skin on it: linear blend skinning [Magnenat-Thalmann et al. 1988].
#include "core/rig/rig.h"

namespace veld {

Pose rest_pose(const std::vector<Joint>& joints);
// The same build standing as the kit stands.
Pose rest_of(const Pose& pose);

// Where joints are and how they are turned in the pose: x -> turn * stretch * (x - rest) + place.
struct PosedJoints {
    std::vector<Mat3> turn;
    std::vector<Mat3> linear;  // turn * stretch
    Points place;
    Vec3 operator()(const std::vector<Joint>& joints, std::size_t joint, const Vec3& x) const {
        return linear[joint] * (x - joints[joint].position) + place[joint];
    }
};
PosedJoints pose_joints(const std::vector<Joint>& joints, const Pose& pose);

// positions: rest places, one per entry of `weights`; mm.
Points skin(const Points& positions, const std::vector<Joint>& joints, const SkinWeights& weights, const Pose& pose);

// Takes a pose out of a shape: each vertex goes back by its own blended turn, to where it would be were
// the figure of this build to stand at rest. Exact inverse of skin() followed by skin() at rest.
Points unposed(const Points& posed, const std::vector<Joint>& joints, const SkinWeights& weights, const Pose& pose);
// The way back from unposed(). before: what was unposed, kept where skin is folded and has no such way.
Points posed_again(const Points& rest, const Points& before, const std::vector<Joint>& joints,
                   const SkinWeights& weights, const Pose& pose);

}  // namespace veld
