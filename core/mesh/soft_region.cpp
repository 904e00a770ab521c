#include "core/mesh/soft_region.h"

#include <queue>

namespace veld {

std::vector<float> soft_region(const Points& positions, const Adjacency& ways, const std::vector<Index>& vertices, double soft_mm) {
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
        const double t = 1 - d / soft_mm;
        out[v] = static_cast<float>(t * t * (3 - 2 * t));
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
