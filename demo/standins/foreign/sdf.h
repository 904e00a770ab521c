#pragma once
// Signed distances of simple solids and how they blend; negative inside. Lengths in mm.
//
// The distances are near enough to follow a surface, not exact: an ellipsoid's is the first-order estimate, and a
// blend pushes a little outwards. Quadratic blend of two distances over k mm [Ricci 1973, A constructive geometry
// for computer graphics, with a polynomial kernel].
#include <algorithm>
#include <cmath>
#include <vector>

#include "core/base/types.h"

namespace veld::foreign {

inline double square(double x) { return x * x; }

inline double join(double a, double b, double k) {
    const double h = std::max(k - std::abs(a - b), 0.0) / k;
    return std::min(a, b) - 0.25 * h * h * k;
}
inline double meet(double a, double b, double k) { return -join(-a, -b, k); }
inline double carve(double solid, double hole, double k) { return meet(solid, -hole, k); }

inline double ball(const Vec3& p, const Vec3& centre, double r) { return (p - centre).norm() - r; }
inline double ellipsoid(const Vec3& p, const Vec3& centre, const Vec3& r) {
    const Vec3 q = (p - centre).cwiseQuotient(r);
    const double k1 = q.cwiseQuotient(r).norm();
    const double k0 = q.norm();
    return k1 > 1e-9 ? k0 * (k0 - 1) / k1 : -r.minCoeff();
}
inline double limb(const Vec3& p, const Vec3& a, const Vec3& b, double ra, double rb) {
    const Vec3 d = b - a;
    const double t = std::clamp((p - a).dot(d) / d.squaredNorm(), 0.0, 1.0);
    return (p - a - t * d).norm() - (ra + (rb - ra) * t);
}

// A bent rod: radii at its points, straight between them.
struct Rod {
    Points points;
    std::vector<double> radii;
    double distance(const Vec3& p) const {
        double out = 1e9;
        for (std::size_t i = 0; i + 1 < points.size(); ++i)
            out = std::min(out, limb(p, points[i], points[i + 1], radii[i], radii[i + 1]));
        return out;
    }
};

// Points on a smooth curve through the given ones [Catmull & Rom 1974].
inline Points smooth_through(const Points& p, int each) {
    Points out;
    const auto at = [&](std::ptrdiff_t i) {
        return p[static_cast<std::size_t>(
            std::clamp<std::ptrdiff_t>(i, 0, static_cast<std::ptrdiff_t>(p.size()) - 1))];
    };
    for (std::ptrdiff_t i = 0; i + 1 < static_cast<std::ptrdiff_t>(p.size()); ++i) {
        for (int s = 0; s < each; ++s) {
            const double t = static_cast<double>(s) / each;
            const Vec3 a = at(i - 1), b = at(i), c = at(i + 1), d = at(i + 2);
            out.push_back(0.5 * (2 * b + t * (c - a) + t * t * (2 * a - 5 * b + 4 * c - d) +
                                 t * t * t * (3 * b - a - 3 * c + d)));
        }
    }
    out.push_back(p.back());
    return out;
}

// Signed distance to a closed outline in the plane of its x and y.
inline double outline_distance(const Points& outline, double x, double y) {
    double d2 = 1e18;
    bool inside = false;
    for (std::size_t i = 0, j = outline.size() - 1; i < outline.size(); j = i++) {
        const double ax = outline[j].x(), ay = outline[j].y(), bx = outline[i].x(), by = outline[i].y();
        const double ex = bx - ax, ey = by - ay, wx = x - ax, wy = y - ay;
        const double t = std::clamp((wx * ex + wy * ey) / std::max(1e-12, ex * ex + ey * ey), 0.0, 1.0);
        const double dx = wx - t * ex, dy = wy - t * ey;
        d2 = std::min(d2, dx * dx + dy * dy);
        if ((ay > y) != (by > y) && x < ax + (y - ay) / (by - ay) * ex) inside = !inside;
    }
    return inside ? -std::sqrt(d2) : std::sqrt(d2);
}

inline double ramp(double from, double to, double x) {
    const double t = std::clamp((x - from) / (to - from), 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

}  // namespace veld::foreign
