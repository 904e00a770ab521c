#pragma once
// A pose as a file: {"joint": [x, y, z], ...}, degrees about the joint's axes, turned in this order.
#include <string>

#include "core/base/result.h"
#include "core/rig/pose.h"

namespace veld {

std::string pose_text(const Pose& pose,
                      const std::vector<Joint>& joints);  // turns alone, those that are none left out
// what: names the pose in messages. Fails with BadFile, naming the joint that the skeleton lacks or the angles that
// are none.
Result<Pose> pose_from(const std::string& text, const std::vector<Joint>& joints, const std::string& what);
// Fails as read_file and pose_from.
Result<Pose> read_pose(const std::string& path, const std::vector<Joint>& joints);

}  // namespace veld
