#pragma once
// Rest poses that people expect besides the one in which a base was built.
#include <map>
#include <optional>
#include <string>

#include "core/rig/pose.h"

namespace veld {

// "A" (arms straight, 45 degrees down) and "T" (level), from where the joints stand at rest; empty when there are no
// arms. Only the arms turn.
std::map<std::string, Pose> arm_poses(const std::vector<Joint>& joints);
// How far the arms hang below the level at rest, degrees, the mean of both; none: there are no arms.
std::optional<double> arms_below_level(const std::vector<Joint>& joints);

}  // namespace veld
