#include "core/spatial/nearest_points.h"

#include <cmath>

namespace veld {

NearestPoints::NearestPoints(const Points& points, double reach) : points_(points), reach_(reach) {
    cells_.reserve(points.size());
    for (Index i = 0; i < points.size(); ++i) cells_[cell_of(points[i], 0, 0, 0)].push_back(i);
}

// Cells that share a number only cost time: distances decide.
std::uint64_t NearestPoints::cell_of(const Vec3& p, int dx, int dy, int dz) const {
    const auto part = [&](double x, int d) {
        return static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(x / reach_)) + d);
    };
    std::uint64_t h = part(p.x(), dx) * 0x9E3779B97F4A7C15ull;
    h = (h ^ (h >> 31)) + part(p.y(), dy) * 0xBF58476D1CE4E5B9ull;
    return (h ^ (h >> 29)) + part(p.z(), dz) * 0x94D049BB133111EBull;
}

Index NearestPoints::nearest(const Vec3& p) const {
    Index best = kNone;
    double least = reach_ * reach_;
    for (int dx = -1; dx <= 1; ++dx) {
        for (int dy = -1; dy <= 1; ++dy) {
            for (int dz = -1; dz <= 1; ++dz) {
                const auto cell = cells_.find(cell_of(p, dx, dy, dz));
                if (cell == cells_.end()) continue;
                for (const Index i : cell->second) {
                    const double d = (points_[i] - p).squaredNorm();
                    if (d < least || (d == least && (best == kNone || i < best))) least = d, best = i;
                }
            }
        }
    }
    return best;
}

}  // namespace veld
