#include "core/fit/push_apart.h"

#include <algorithm>
#include <limits>

#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

constexpr int kIdleRounds = 12;

Vec3 normal_of(const Points& x, const Triangle& t) {
    return (x[t[1]] - x[t[0]]).cross(x[t[2]] - x[t[0]]).normalized();
}

struct Moves {
    std::vector<Vec3> sum;
    std::vector<double> weight;
    void add(Index v, const Vec3& d) {
        sum[v] += d;
        weight[v] += 1;
    }
};

// Vertices of `mine` that lie behind the plane of `other` go to its front.
void separate(const Points& x, const Triangle& mine, const Triangle& other, const PushOptions& options, Moves& moves) {
    const Vec3 n = normal_of(x, other);
    if (n.dot(normal_of(x, mine)) > -0.2) return;  // not two sheets face to face
    for (Index v : mine) {
        if (std::find(other.begin(), other.end(), v) != other.end()) continue;
        const double depth = options.gap_mm - n.dot(x[v] - x[other[0]]);
        if (depth <= 0 || depth > options.most_mm) continue;
        moves.add(v, 0.5 * depth * n);
        for (Index o : other) moves.add(o, -0.5 * depth * n);
    }
}

}  // namespace

std::size_t push_apart(Points& x, const std::vector<Triangle>& triangles, const VertexMask& movable,
                       const std::set<std::pair<Index, Index>>& allowed, const TriangleIndices* only,
                       const PushOptions& options) {
    std::size_t fewest = std::numeric_limits<std::size_t>::max();
    for (int round = 0, idle = 0;; ++round) {
        std::size_t cuts = 0;
        Moves moves{std::vector<Vec3>(x.size(), Vec3::Zero()), std::vector<double>(x.size(), 0.0)};
        for (const auto& pair : self_intersections(x, triangles, only)) {
            if (allowed.contains(pair)) continue;
            ++cuts;
            separate(x, triangles[pair.first], triangles[pair.second], options, moves);
            separate(x, triangles[pair.second], triangles[pair.first], options, moves);
        }
        idle = cuts < fewest ? 0 : idle + 1;
        fewest = std::min(fewest, cuts);
        // a real tangle only churns
        if (cuts == 0 || round == options.rounds || idle == kIdleRounds) return cuts;
        for (std::size_t v = 0; v < x.size(); ++v) {
            if (moves.weight[v] > 0 && movable[v]) x[v] += moves.sum[v] / moves.weight[v];
        }
    }
}

}  // namespace veld
