#include "core/spatial/ground_shadow.h"

#include <cmath>

#include "core/spatial/openness.h"
#include "core/spatial/surface_query.h"

namespace veld {
namespace {

constexpr Index kPlaces = 72;     // on the longer side
constexpr double kBelow = 0.004;  // of the reach: rays start under the ground, so that soles on it are met

}  // namespace

GroundShadow ground_shadow(const SurfaceQuery& surface, const Box& box, double reach, const Progress& progress) {
    GroundShadow out;
    const double wide = box.size().x() + 2 * reach, deep = box.size().z() + 2 * reach;
    out.cell = std::max(wide, deep) / (kPlaces - 1);
    out.across = std::max<Index>(2, static_cast<Index>(std::lround(wide / out.cell)) + 1);
    out.deep = std::max<Index>(2, static_cast<Index>(std::lround(deep / out.cell)) + 1);
    out.left = box.low.x() - reach, out.back = box.low.z() - reach, out.height = box.low.y();
    Points places;
    std::vector<Triangle> cells;
    for (Index j = 0; j < out.deep; ++j) {
        for (Index i = 0; i < out.across; ++i) {
            places.emplace_back(out.left + i * out.cell, out.height, out.back + j * out.cell);
            if (i == 0 || j == 0) continue;
            const Index d = j * out.across + i, c = d - 1, b = d - out.across, a = b - 1;
            cells.push_back({a, c, d}), cells.push_back({a, d, b});
        }
    }
    OpennessSettings settings;
    settings.rays = 64;
    settings.reach_mm = reach;
    settings.lift_mm = -kBelow * reach;
    settings.smooth_rounds = 2;
    out.open = openness_of(places, Points(places.size(), Vec3::UnitY()), cells, surface, settings, progress);
    return out;
}

}  // namespace veld
