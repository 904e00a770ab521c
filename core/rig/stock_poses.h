#pragma once
// Poses in which people look whether a shape stands as it should.
#include "core/rig/pose.h"

namespace veld {

struct StockPose {
    std::string name;  // "T", "A", "arms up", "sit", "stride", "squat", "reach", "twist", "head turned" … "fists"
    Pose pose;
};

// Those that these joints can take, in that order; arms and legs turn about the axes of the base at rest.
std::vector<StockPose> stock_poses(const std::vector<Joint>& joints);

}  // namespace veld
