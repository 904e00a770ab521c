#pragma once
// Sheets of skin that slipped through each other by a little (lips, lids) are set back apart.
//
// Position-based contact [Mueller et al. 2007]: each vertex of a cutting triangle that lies behind
// the other triangle's plane is moved to its front, half by each side. Moves are limited, so that a
// real tangle is left for the caller to see.
#include <set>
#include <vector>

#include "core/base/types.h"

namespace veld {

struct PushOptions {
    double gap_mm = 0.05;  // left between the sheets
    double most_mm = 1.5;  // deeper cuts are no slip
    int rounds = 60;
};

// movable: per vertex. allowed: pairs of triangles that may cut (they do so on the base).
// only: null, or the triangles that are looked at. Returns the number of new cuts that remain.
std::size_t push_apart(Points& positions, const std::vector<Triangle>& triangles, const VertexMask& movable,
                       const std::set<std::pair<Index, Index>>& allowed, const TriangleIndices* only = nullptr,
                       const PushOptions& options = {});

}  // namespace veld
