#pragma once
// Where morphs take the joints: told by the shape through the kit's joint ties, unless people fixed a joint's move.
#include "core/kit/kit_joints.h"
#include "core/morph/morph.h"

namespace veld {

// One per joint of the kit, mm at amount 1, without the root.
Points joint_moves(const BaseKit& kit, const Morph& morph);

// The joints of a mix: where the base has them, and each morph's moves and root by its amount. Linear like the mix.
std::vector<Joint> mixed_joints(const BaseKit& kit, const std::vector<MorphAmount>& amounts);

// The joints in a shape that these morphs are in (a mix weighed region by region, say): as the shape tells them, but
// for moves that are fixed.
std::vector<Joint> joints_with_fixed(const BaseKit& kit, const Points& shape, const std::vector<MorphAmount>& amounts);

// Every joint's move as the shape tells it now is kept with the morph, beside those that are fixed already.
void fix_joints(const BaseKit& kit, Morph& morph);

}  // namespace veld
