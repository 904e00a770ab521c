#pragma once
// Skin that follows its joints by blended rigid motions: dual quaternion linear blending [Kavan, Collins, Zara,
// O'Sullivan 2008]. Keeps the girth of twisted and bent limbs where linear blending loses it.
#include "core/rig/pose.h"

namespace veld {

// As skin() (pose.h); a pose's stretch is applied first, blended linearly.
Points skin_by_dual_quaternions(const Points& positions, const std::vector<Joint>& joints, const SkinWeights& weights,
                                const Pose& pose);

}  // namespace veld
