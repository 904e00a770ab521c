#include "core/mesh/surface_distance.h"

#include <queue>

namespace veld {

SurfaceDistances surface_distances(const Points& positions, const Adjacency& ways, const VertexIndices& sources,
                                   const VertexMask* passable) {
    SurfaceDistances out;
    out.distance.assign(positions.size(), std::numeric_limits<double>::infinity());
    out.source.assign(positions.size(), kNone);
    std::priority_queue<std::pair<double, Index>, std::vector<std::pair<double, Index>>, std::greater<>> open;
    for (Index i = 0; i < sources.size(); ++i) {
        if (out.source[sources[i]] != kNone) continue;
        out.distance[sources[i]] = 0, out.source[sources[i]] = i;
        open.emplace(0.0, sources[i]);
    }
    while (!open.empty()) {
        const auto [d, v] = open.top();
        open.pop();
        if (d > out.distance[v]) continue;
        for (const Index* j = ways.begin(v); j != ways.end(v); ++j) {
            const double through = d + (positions[*j] - positions[v]).norm();
            if ((passable && !(*passable)[*j]) || through >= out.distance[*j]) continue;
            out.distance[*j] = through, out.source[*j] = out.source[v];
            open.emplace(through, *j);
        }
    }
    return out;
}

}  // namespace veld
