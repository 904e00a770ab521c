#include "core/skin/relief.h"

#include <tbb/parallel_for.h>

#include <cmath>

#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

// Neighbours of places; of vertices that are not the first at their place there are none.
Adjacency place_neighbours(const std::vector<Triangle>& triangles, const std::vector<Index>& place) {
    std::vector<Triangle> joined;
    joined.reserve(triangles.size());
    for (const Triangle& t : triangles) {
        const Triangle j{place[t[0]], place[t[1]], place[t[2]]};
        if (j[0] != j[1] && j[1] != j[2] && j[2] != j[0]) joined.push_back(j);
    }
    return vertex_neighbours(joined, static_cast<Index>(place.size()));
}

template <class Value>
void share_places(const std::vector<Index>& place, std::vector<Value>& values) {
    for (std::size_t v = 0; v < values.size(); ++v) values[v] = values[place[v]];
}

}  // namespace

std::vector<float> mean_curvature(const Points& positions, const Points& normals,
                                  const std::vector<Triangle>& triangles, const std::vector<Index>& place) {
    const Adjacency ways = place_neighbours(triangles, place);
    std::vector<float> own(positions.size(), 0), out(positions.size(), 0);
    const auto sized = [&](std::vector<float>& to, const auto& value) {
        tbb::parallel_for(Index{0}, static_cast<Index>(positions.size()), [&](Index v) {
            if (ways.begin(v) != ways.end(v)) to[v] = static_cast<float>(value(v));
        });
    };
    sized(own, [&](Index v) {
        double sum = 0;
        for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
            const Vec3 edge = positions[*w] - positions[v];
            sum += (normals[*w] - normals[v]).dot(edge) / std::max(edge.squaredNorm(), 1e-12);
        }
        return sum / static_cast<double>(ways.end(v) - ways.begin(v));
    });
    // averaged once with its neighbours: single edges of a scan are noise
    sized(out, [&](Index v) {
        double sum = 2 * own[v];
        for (const Index* w = ways.begin(v); w != ways.end(v); ++w) sum += own[*w];
        return sum / static_cast<double>(2 + (ways.end(v) - ways.begin(v)));
    });
    share_places(place, out);
    return out;
}

std::vector<float> relief(const Points& positions, const Points& normals, const std::vector<Triangle>& triangles,
                          const std::vector<Index>& place, double radius_mm) {
    const Adjacency ways = place_neighbours(triangles, place);
    std::vector<double> lengths;
    for (std::size_t t = 0; t < triangles.size(); t += 1 + triangles.size() / 20000)
        lengths.push_back((positions[triangles[t][0]] - positions[triangles[t][1]]).norm());
    const double edge = std::max(median(lengths), 1e-3);
    // uniform rounds spread by about edge * sqrt(rounds)
    const int rounds = std::clamp(static_cast<int>(std::lround(std::pow(radius_mm / edge, 2))), 1, 200);
    Points soft = positions, next = positions;
    for (int round = 0; round < rounds; ++round) {
        tbb::parallel_for(Index{0}, static_cast<Index>(soft.size()), [&](Index v) {
            const auto count = ways.end(v) - ways.begin(v);
            if (count == 0) return;
            Vec3 sum = soft[v];
            for (const Index* w = ways.begin(v); w != ways.end(v); ++w) sum += soft[*w];
            next[v] = sum / static_cast<double>(count + 1);
        });
        std::swap(soft, next);
    }
    std::vector<float> out(positions.size(), 0);
    for (Index v = 0; v < out.size(); ++v) {
        if (ways.begin(v) != ways.end(v)) out[v] = static_cast<float>((positions[v] - soft[v]).dot(normals[v]));
    }
    share_places(place, out);
    return out;
}

}  // namespace veld
