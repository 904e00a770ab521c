#include "core/fit/floor.h"

#include <cmath>

namespace veld {
namespace {

constexpr double kThickMm = 5;
constexpr double kLeastShare = 0.03;  // of the height squared: twice a figure's own soles
constexpr double kTries = 200;

struct HeightBand {
    Vec3 place, normal;
    double area = 0;
};

}  // namespace

VertexMask floor_vertices(const Points& positions, const std::vector<Triangle>& triangles) {
    VertexMask out(positions.size(), 0);
    Box box;
    for (const Triangle& t : triangles) {
        for (const Index v : t) box.add(positions[v]);
    }
    if (box.empty()) return out;
    const double top = box.low.y() + box.size().y() / 16;
    std::vector<HeightBand> level;
    for (const Triangle& t : triangles) {
        const Vec3 n = (positions[t[1]] - positions[t[0]]).cross(positions[t[2]] - positions[t[0]]);
        const Vec3 middle = (positions[t[0]] + positions[t[1]] + positions[t[2]]) / 3;
        if (middle.y() > top || n.norm() <= 0 || std::abs(n.y()) < 0.85 * n.norm()) continue;
        level.push_back({middle, n.normalized() * (n.y() < 0 ? -1 : 1), 0.5 * n.norm()});
    }
    double all = 0, seen = 0;
    for (const HeightBand& l : level) all += l.area;
    HeightBand best;
    std::size_t tried = 0;
    for (std::size_t i = 0; i < level.size(); ++i) {
        // tried at equal steps of area: a ground of two triangles is met as surely as one of thousands
        seen += level[i].area;
        if (seen * kTries < all * static_cast<double>(tried)) continue;
        while (static_cast<double>(tried) * all <= seen * kTries) ++tried;
        double area = 0;
        for (const HeightBand& other : level) {
            if (std::abs(level[i].normal.dot(other.place - level[i].place)) < kThickMm &&
                level[i].normal.dot(other.normal) > 0.97)
                area += other.area;
        }
        if (area > best.area) best = {level[i].place, level[i].normal, area};
    }
    if (best.area < kLeastShare * box.size().y() * box.size().y()) return out;
    for (std::size_t v = 0; v < positions.size(); ++v)
        out[v] = best.normal.dot(positions[v] - best.place) < kThickMm;  // and what is below it
    return out;
}

VertexMask ignored_with_floor(const Mesh& source, const Similarity& to_upright, const VertexMask* ignored) {
    Points standing;
    standing.reserve(source.positions.size());
    for (const Vec3& p : source.positions) standing.push_back(to_upright(p));
    VertexMask out = floor_vertices(standing, triangulate(source).triangles);
    for (std::size_t v = 0; ignored && v < out.size(); ++v) out[v] |= (*ignored)[v];
    return out;
}

}  // namespace veld
