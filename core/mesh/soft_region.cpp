#include "core/mesh/soft_region.h"

#include <queue>

#include "core/base/smoothstep.h"

namespace veld {

std::vector<float> spread_out(const SoftWeights& weights, std::size_t vertex_count) {
    std::vector<float> out(vertex_count, 0);
    for (std::size_t i = 0; i < weights.vertex.size(); ++i) {
        if (weights.vertex[i] < vertex_count) out[weights.vertex[i]] = weights.weight[i];
    }
    return out;
}

SoftWeights soft_weights(const std::vector<float>& per_vertex) {
    SoftWeights out;
    for (Index v = 0; v < per_vertex.size(); ++v) {
        if (per_vertex[v] <= 0) continue;
        out.vertex.push_back(v);
        out.weight.push_back(std::min(per_vertex[v], 1.0f));
    }
    return out;
}

std::vector<float> soft_region(const Points& positions, const Adjacency& ways, const VertexIndices& vertices,
                               double soft_mm) {
    std::vector<double> distance(positions.size(), soft_mm);
    std::vector<float> out(positions.size(), 0);
    std::priority_queue<std::pair<double, Index>, std::vector<std::pair<double, Index>>, std::greater<>> open;
    for (const Index v : vertices) {
        distance[v] = 0, out[v] = 1;
        open.emplace(0.0, v);
    }
    while (!open.empty() && soft_mm > 0) {
        const auto [d, v] = open.top();
        open.pop();
        if (d > distance[v]) continue;
        out[v] = static_cast<float>(smoothstep(1 - d / soft_mm));
        for (const Index* j = ways.begin(v); j != ways.end(v); ++j) {
            const double through = d + (positions[*j] - positions[v]).norm();
            if (through >= distance[*j]) continue;
            distance[*j] = through;
            open.emplace(through, *j);
        }
    }
    return out;
}

}  // namespace veld
