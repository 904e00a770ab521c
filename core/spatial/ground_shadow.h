#pragma once
// The soft shadow that a figure throws on the ground where it stands: how open the ground lies to the sky, by rays.
#include "core/base/progress.h"
#include "core/mesh/mesh.h"

namespace veld {

class SurfaceQuery;

// A grid of places on the ground, row by row from the back (-Z) to the front, each row from -X to +X.
struct GroundShadow {
    Index across = 0, deep = 0;  // places
    double left = 0, back = 0;   // of the first place
    double cell = 0;             // from one to the next
    double height = 0;           // of the ground
    std::vector<float> open;     // 0 (nothing but the figure above it) .. 1
    bool empty() const { return open.empty(); }
};

// The ground at the surface's lowest place, as far around its box (not empty) as the shadow reaches. Lengths are in
// the surface's unit; reach: what is farther off throws no shadow. Empty: cancelled. Cosine-weighted rays, as
// openness_of().
GroundShadow ground_shadow(const SurfaceQuery& surface, const Box& box, double reach, const Progress& progress);

}  // namespace veld
