#pragma once
// Bending a skeleton and the skin on it: linear blend skinning [Magnenat-Thalmann et al. 1988].
#include "core/rig/rig.h"

namespace veld {

struct Pose {
    std::vector<Mat3> turns;   // per joint, against its parent, about the joint itself; rest: identity
    Vec3 move = Vec3::Zero();  // of the first joint, mm
};
Pose rest_pose(const std::vector<Joint>& joints);

// Where joints are and how they are turned in the pose: x -> turn * (x - rest) + place.
struct PosedJoints {
    std::vector<Mat3> turn;
    Points place;
    Vec3 operator()(const std::vector<Joint>& joints, std::size_t joint, const Vec3& x) const { return turn[joint] * (x - joints[joint].position) + place[joint]; }
};
PosedJoints pose_joints(const std::vector<Joint>& joints, const Pose& pose);

// positions: rest places, one per entry of `weights`; mm.
Points skin(const Points& positions, const std::vector<Joint>& joints, const SkinWeights& weights, const Pose& pose);

}  // namespace veld
