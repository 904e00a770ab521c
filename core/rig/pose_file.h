#pragma once
// A pose as a file: {"joint": [x, y, z], ...}, degrees about the joint's axes, turned in this order.
#include <string>

#include "core/base/result.h"
#include "core/rig/pose.h"

namespace veld {

// Fails with BadFile, naming the joint that the skeleton lacks or the angles that are none.
Result<Pose> read_pose(const std::string& path, const std::vector<Joint>& joints);

}  // namespace veld
