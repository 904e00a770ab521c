#pragma once
// Where people are soft: how far skin lies from the bones there says more of the build than of the pose.
#include "core/kit/base_kit.h"

namespace veld {

// Per vertex of the kit: 1 over bone, less over belly, hips, seat and breasts, where fat lies first [Heymsfield et
// al., Human Body Composition, 2005]. By the kit's landmarks there; 1 everywhere on kits that have none of them.
std::vector<double> firmness(const BaseKit& kit);

}  // namespace veld
