#include "core/spatial/surface_ties.h"

#include <tbb/parallel_for.h>

#include <Eigen/Geometry>
#include <Eigen/LU>
#include <cmath>

namespace veld {
namespace {

constexpr double kSameWay = 0.2;     // cosine between a point's direction and a triangle's
constexpr double kLeastArea = 1e-9;  // of a triangle, against the square of its longest side

// How a triangle is turned and stretched: its sides as they are, its normal by the root of the areas' ratio
// [Sumner & Popovic 2004, 3]. False: one of the two is no triangle.
bool map_of(const Points& rest, const Points& now, const Triangle& t, Mat3& out, double& area) {
    const auto frame = [&](const Points& x, Mat3& m) {
        m.col(0) = x[t[1]] - x[t[0]], m.col(1) = x[t[2]] - x[t[0]];
        const Vec3 n = m.col(0).cross(m.col(1));
        const double size = n.norm(), side = std::max(m.col(0).squaredNorm(), m.col(1).squaredNorm());
        if (!(size > kLeastArea * side)) return 0.0;
        m.col(2) = n / std::sqrt(size);
        return size;
    };
    Mat3 before, after;
    area = frame(rest, before);
    if (area == 0 || frame(now, after) == 0) return false;
    out = after * before.inverse();
    return true;
}

}  // namespace

SurfaceTies::SurfaceTies(const Points& points, const Points* normals, Points rest,
                         const std::vector<Triangle>& triangles, double reach)
    : points_(points), rest_(std::move(rest)), triangles_(triangles), ties_(points.size()) {
    const SurfaceQuery query(rest_, triangles_);
    tbb::parallel_for(std::size_t{0}, points.size(), [&](std::size_t i) {
        SurfaceHit hit;
        if (normals) {
            const FacingFilter facing{(*normals)[i], kSameWay};
            hit = query.closest(points[i], reach, &facing);
        }
        if (!hit) hit = query.closest(points[i], reach);
        if (hit) ties_[i] = {hit.triangle, hit.barycentric, points[i] - hit.position, hit.distance};
    });
}

Points SurfaceTies::moved(const Points& now) const {
    // at vertices the mean of the triangles around, so that neighbouring points go alike; only where one is tied
    std::vector<Mat3> map(rest_.size(), Mat3::Zero());
    std::vector<double> weight(rest_.size(), 0);
    std::vector<char> wanted(rest_.size(), 0);
    for (const SurfaceTie& tie : ties_) {
        if (tie.triangle == kNone) continue;
        for (const Index v : triangles_[tie.triangle]) wanted[v] = 1;
    }
    for (const Triangle& t : triangles_) {
        if (!wanted[t[0]] && !wanted[t[1]] && !wanted[t[2]]) continue;
        Mat3 m;
        double area = 0;
        if (!map_of(rest_, now, t, m, area)) continue;
        for (const Index v : t) map[v] += area * m, weight[v] += area;
    }
    Points out = points_;
    for (std::size_t i = 0; i < out.size(); ++i) {
        const SurfaceTie& tie = ties_[i];
        if (tie.triangle == kNone) continue;
        const Triangle& t = triangles_[tie.triangle];
        Vec3 move = Vec3::Zero(), offset = Vec3::Zero();
        for (std::size_t k = 0; k < 3; ++k) {
            const double w = tie.barycentric[k];
            move += w * (now[t[k]] - rest_[t[k]]);
            offset += w * (weight[t[k]] > 0 ? Vec3(map[t[k]] / weight[t[k]] * tie.offset) : tie.offset);
        }
        out[i] += move + (offset - tie.offset);
    }
    return out;
}

}  // namespace veld
