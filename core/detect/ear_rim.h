#pragma once
// The outer edge of an ear followed around: seen along the ear's own axis, the place on every ray from its middle
// where the surface falls away for good, by dynamic programming [Amini, Weymouth, Jain 1990] so that the edge stays
// one smooth line near a guess. A fold inside falls only a little before the rim rises again, so it is no edge.
#include <vector>

#include "core/fit/source_surface.h"

namespace veld {

struct RimView {
    Vec3 middle = Vec3::Zero(), back = Vec3::Zero(), up = Vec3::Zero(), out = Vec3::Zero();  // unit, right angles
};
struct RimPoint {
    Vec3 place = Vec3::Zero();  // on the surface, just inside the edge
    double clear = 0;           // 0: nothing falls away there (hair, or grown on), 1: a clean edge
};

// guess: along the rim, in the view's frame of the surface; one point comes back for each. Places without any
// surface under them keep the guess.
std::vector<RimPoint> trace_rim(const SourceSurface& surface, const RimView& view, const Points& guess);

}  // namespace veld
