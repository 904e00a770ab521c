#pragma once
// Shapes that were still switched on when the base went out, and came back inside a sculpt.
#include "core/exchange/return_check.h"

namespace veld {

// Amounts that explain `delta` (returned - base, per vertex) best. What a sculptor adds moves small surroundings
// evenly where an expression has its creases: of both only that is looked at which no quadratic map of three rings
// explains; what does not fit is outvoted, not averaged [least absolute deviations by reweighting, Schlossmacher
// 1973]. Shapes are taken in one by one, the one that explains most first [orthogonal matching pursuit, Pati et al.
// 1993], so that a shape and its two halves are not both found. returned: per vertex, did it come back?
struct LeftoverAmount {
    double amount = 0;
    // 0..1: the share of what this amount of the shape would bring that is really there. Chance likenesses to a
    // sculpt have little.
    double proven = 0;
};
std::vector<LeftoverAmount> leftover_amounts(const BaseKit& kit, const Points& delta, const VertexMask& returned,
                                             const std::vector<const Morph*>& shapes);

}  // namespace veld
