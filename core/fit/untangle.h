#pragma once
// Skin that cut through itself is taken out of itself again, with no knowledge of which side it came from.
//
// Intersection contour minimization [Volino & Magnenat-Thalmann 2006]: each edge that crosses a triangle and that
// triangle move so that the contour along which skin cuts itself gets shorter, half by each. It goes on where setting
// sheets to the front of each other (push_apart.h) only churns: at corners of lids and lips, where sheets are folded.
#include <functional>
#include <utility>
#include <vector>

#include "core/base/types.h"

namespace veld {

struct UntangleOptions {
    double step_mm = 0.1;                 // the most that a round moves a vertex
    int rounds = 400, idle_rounds = 200;  // in all; without fewer cuts
    // What must hold besides (lids that meet): called after each round, with the vertices that it moved, ascending.
    std::function<void(Points&, const VertexIndices&)> hold;
};

// movable: per vertex; triangles of which nothing may move stand in the way, and do not count among themselves.
// allowed: pairs of triangles that may cut, ascending. only: null, or the triangles that are looked at, ascending. The
// shape becomes the one with the fewest cuts that was found. Returns how many that has.
std::size_t untangle(Points& shape, const std::vector<Triangle>& triangles, const VertexMask& movable,
                     const std::vector<std::pair<Index, Index>>& allowed, const TriangleIndices* only = nullptr,
                     const UntangleOptions& options = {});

}  // namespace veld
