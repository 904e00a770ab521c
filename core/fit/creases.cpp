#include "core/fit/creases.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/spatial/surface_query.h"

namespace veld {
namespace {

// Cosine-weighted directions of the upper hemisphere (+Z), evenly spread [Vogel 1979].
Points hemisphere(int count) {
    Points out;
    for (int i = 0; i < count; ++i) {
        const double r2 = (i + 0.5) / count, phi = i * 2.399963229728653;
        out.emplace_back(std::sqrt(r2) * std::cos(phi), std::sqrt(r2) * std::sin(phi), std::sqrt(1 - r2));
    }
    return out;
}

}  // namespace

std::vector<double> openness(const Points& positions, const std::vector<Triangle>& triangles, const VertexMask& wanted,
                             double reach_mm) {
    const SurfaceQuery query(positions, triangles);
    const Points normals = vertex_normals(positions, triangles);
    const Points directions = hemisphere(64);
    std::vector<double> out(positions.size(), 1.0);
    tbb::parallel_for(std::size_t{0}, positions.size(), [&](std::size_t v) {
        if (!wanted[v] || normals[v].isZero()) return;
        const Mat3 turn = Eigen::Quaterniond::FromTwoVectors(Vec3::UnitZ(), normals[v]).toRotationMatrix();
        int free = 0;
        for (const Vec3& d : directions) {
            const Vec3 ray = turn * d;
            const SurfaceHit hit = query.first_hit(positions[v] + 0.02 * normals[v] + 0.005 * ray, ray);
            free += !hit || hit.distance > reach_mm;
        }
        out[v] = free / static_cast<double>(directions.size());
    });
    return out;
}

std::vector<ContactPair> contact_pairs(const Points& positions, const std::vector<Triangle>& triangles,
                                       const std::vector<double>& open, double reach_mm, double below) {
    const SurfaceQuery query(positions, triangles);
    const Points normals = vertex_normals(positions, triangles);
    std::vector<ContactPair> found(positions.size());
    tbb::parallel_for(std::size_t{0}, positions.size(), [&](std::size_t v) {
        if (open[v] >= below || normals[v].isZero()) return;
        const FacingFilter opposite{-normals[v], 0.5};
        const SurfaceHit hit = query.closest(positions[v], reach_mm, &opposite);
        if (!hit) return;
        const Triangle& t = triangles[hit.triangle];
        if (std::find(t.begin(), t.end(), static_cast<Index>(v)) != t.end()) return;
        // the other sheet lies in front of this one, not behind it (which would be a thin wall)
        if ((hit.position - positions[v]).dot(normals[v]) <= 0) return;
        found[v] = {static_cast<Index>(v), t, hit.barycentric};
    });
    std::erase_if(found, [](const ContactPair& c) { return c.vertex == kNone; });
    return found;
}

}  // namespace veld
