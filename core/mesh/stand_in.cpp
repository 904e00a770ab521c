#include "core/mesh/stand_in.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace veld {

std::vector<Triangle> stand_in_triangles(const Points& positions, const std::vector<Triangle>& triangles, std::size_t wanted) {
    if (triangles.size() <= wanted || wanted == 0) return triangles;
    double area = 0;
    Vec3 low = positions.front();
    for (const Triangle& t : triangles) area += 0.5 * (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]).norm();
    for (const Vec3& p : positions) low = low.cwiseMin(p);
    // a closed surface has about two triangles a vertex, and a grid cuts a slanted one in more cells than a flat one
    const double cell = std::sqrt(3.0 * area / static_cast<double>(wanted));
    if (!(cell > 0)) return triangles;
    std::unordered_map<std::uint64_t, Index> first_in_cell;
    std::vector<Index> representative(positions.size(), kNone);
    const auto represent = [&](Index v) {
        if (representative[v] != kNone) return representative[v];
        const Vec3 at = (positions[v] - low) / cell;
        std::uint64_t key = 0;
        for (int k = 0; k < 3; ++k) key = (key << 21) | (static_cast<std::uint64_t>(at[k]) & 0x1fffff);
        return representative[v] = first_in_cell.try_emplace(key, v).first->second;
    };
    std::vector<Triangle> out;
    for (const Triangle& t : triangles) {
        Triangle r{represent(t[0]), represent(t[1]), represent(t[2])};
        if (r[0] == r[1] || r[1] == r[2] || r[2] == r[0]) continue;
        // smallest first, so that repeats are found; the turn stays
        std::rotate(r.begin(), std::min_element(r.begin(), r.end()), r.end());
        out.push_back(r);
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

}  // namespace veld
