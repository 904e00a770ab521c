#pragma once
// Where a kit's joints are in any shape of its base.
#include "core/kit/base_kit.h"

namespace veld {

// The kit's own ties (BaseKit::joint_ties) or, for joints that have none, those that follow from its skin weights; an
// eye's joint is tied to its ball. One per joint; made once, lives with the kit.
const std::vector<JointTie>& joint_ties(const BaseKit& kit);

// Ties by shares that people gave (joint_ties.h), by joint. both: the other side's joint too, by the mirrored
// vertices; a joint in the middle alike on both sides. Fails with DegenerateInput when the shares say too little,
// naming the joint.
Result<std::map<std::string, JointTie>> ties_by_shares(const BaseKit& kit, const std::string& joint,
                                                       const std::vector<double>& shares, bool both);

// Ties that people made in a kit, for another one of the same base: by the same skin, at the joints' places there.
std::map<std::string, JointTie> ties_again(const BaseKit& before, const BaseKit& kit);

// shape: every vertex of the base, at rest. One place per joint, mm.
Points joint_places(const BaseKit& kit, const Points& shape);
// The kit's joints where they are in that shape.
std::vector<Joint> joints_in(const BaseKit& kit, const Points& shape);

}  // namespace veld
