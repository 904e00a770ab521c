#pragma once
// Triangles of one surface that cut through each other.
//
// Two triangles intersect when an edge of one crosses the other. Triangles with a common edge are
// left to the flip test; with a common vertex only the opposite edges are looked at.
#include <utility>
#include <vector>

#include "core/base/types.h"

namespace veld {

// Pairs (a < b), ascending. Only triangles whose three vertices are in `positions` range.
// only: null, or the numbers of the triangles that are looked at, ascending.
std::vector<std::pair<Index, Index>> self_intersections(const Points& positions,
                                                        const std::vector<Triangle>& triangles,
                                                        const TriangleIndices* only = nullptr);

// Triangles that could cut one with a marked vertex: those in the box around these.
TriangleIndices triangles_near(const Points& positions, const std::vector<Triangle>& triangles,
                               const VertexMask& marked);

}  // namespace veld
