#include "core/detect/side_relief.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {

constexpr double kReliefCellMm = 1.5, kOpenDiscMm = 23, kStandsOutMm = 2.2;
constexpr double kLookFromMm = 90;  // of the eye from the middle

// Least (sign -1) or greatest value in a disc around every cell.
std::vector<double> disc_extreme(const std::vector<double>& height, int n, int disc, double sign) {
    std::vector<double> out(height.size());
    for (int y = 0; y < n; ++y) {
        for (int x = 0; x < n; ++x) {
            double best = -1e9;
            for (int dy = -disc; dy <= disc; ++dy) {
                const int wide = static_cast<int>(std::sqrt(static_cast<double>(disc * disc - dy * dy)));
                const int row = std::clamp(y + dy, 0, n - 1);
                for (int dx = -wide; dx <= wide; ++dx)
                    best = std::max(best,
                                    sign * height[static_cast<std::size_t>(row * n + std::clamp(x + dx, 0, n - 1))]);
            }
            out[static_cast<std::size_t>(y * n + x)] = sign * best;
        }
    }
    return out;
}

}  // namespace

SideRelief side_relief(const SourceSurface& surface, const Vec3& middle, double side, double half_mm) {
    const int n = 2 * static_cast<int>(half_mm / kReliefCellMm) + 1;
    std::vector<double> height(static_cast<std::size_t>(n * n), -kLookFromMm);
    std::vector<SurfaceHit> hits(height.size());
    const Vec3 way(-side, 0, 0);
    for (int y = 0; y < n; ++y) {
        for (int x = 0; x < n; ++x) {
            const auto at = static_cast<std::size_t>(y * n + x);
            const Vec3 from =
                middle + Vec3(side * kLookFromMm, kReliefCellMm * (y - n / 2), kReliefCellMm * (x - n / 2));
            hits[at] = surface.query->first_front_hit(from, way);
            if (hits[at] && hits[at].distance < 2 * kLookFromMm)
                height[at] = -hits[at].distance;
            else
                hits[at] = {};
        }
    }
    const int disc = static_cast<int>(kOpenDiscMm / kReliefCellMm);
    const std::vector<double> opened = disc_extreme(disc_extreme(height, n, disc, -1), n, disc, 1);
    SideRelief out;
    for (std::size_t i = 0; i < height.size(); ++i) {
        if (!hits[i] || height[i] - opened[i] < kStandsOutMm) continue;
        out.places.push_back(hits[i].position);
        out.normals.push_back(surface.query->triangle_normals()[hits[i].triangle]);
        out.height.push_back(height[i] - opened[i]);
    }
    return out;
}

}  // namespace veld
