#pragma once
// A set of vertices as weights that fade outwards along the surface.
#include <vector>

#include "core/mesh/topology.h"

namespace veld {

std::vector<float> spread_out(const SoftWeights& weights, std::size_t vertex_count);  // those that fit in
SoftWeights soft_weights(const std::vector<float>& per_vertex);

// Per vertex 0..1: 1 in the set, then a smooth step down to 0 at soft_mm from it, by the way over `ways`
// [Dijkstra 1959]. soft_mm 0: the set alone.
std::vector<float> soft_region(const Points& positions, const Adjacency& ways, const VertexIndices& vertices,
                               double soft_mm);

}  // namespace veld
