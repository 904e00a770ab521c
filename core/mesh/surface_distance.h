#pragma once
// Shortest ways over a mesh's edges from some of its vertices [Dijkstra 1959].
#include <vector>

#include "core/mesh/topology.h"

namespace veld {

struct SurfaceDistances {
    std::vector<double> distance;  // mm, infinite where no way leads
    std::vector<Index> source;     // which of `sources` is nearest; kNone where no way leads
};
// passable: null, or one per vertex: ways lead only over these; sources count whatever it says. Of equal ways the
// earlier source's wins.
SurfaceDistances surface_distances(const Points& positions, const Adjacency& ways, const VertexIndices& sources,
                                   const VertexMask* passable = nullptr);

}  // namespace veld
