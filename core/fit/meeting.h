#pragma once
// Skin that meets in an expression (shut lids, closed lips) meets in it on another base too.
#include "core/kit/base_kit.h"

namespace veld {

// Two vertices of the skin that lie apart at rest and touch in a shape.
struct Meeting {
    Index a = kNone, b = kNone;
};
std::vector<Meeting> meetings_of(const BaseKit& kit, const Points& shape);

// What is missing where `moved`, the same expression on another face, keeps them apart: per vertex of the kit a
// further way that closes it, shared by both as they move, fading out over the skin that moves with them (harmonic
// along the surface). wanted: per meeting how b lies from a when all is well.
Points closing_ways(const BaseKit& kit, const std::vector<Meeting>& meetings, const Points& wanted, const Points& rest,
                    const Points& moved);

}  // namespace veld
