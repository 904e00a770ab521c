#pragma once
// What a caliper touches.
//
// Commissures, where upper and lower edge meet in a slit: they are marked where they are seen, as the ball at the end
// of a caliper lies there, and not at the slit's bottom.
#include "core/spatial/surface_query.h"

namespace veld {

inline constexpr const char* kCommissures[] = {"endocanthion_l", "endocanthion_r", "exocanthion_l", "exocanthion_r",
                                               "cheilion_l",     "cheilion_r",     "stomion"};

// mm along +z (the face looks that way) from a place in a slit to where a small ball from the front touches first;
// 0: it is not hidden, or the slit is deeper than any.
double slit_depth(const SurfaceQuery& surface, const Vec3& at);

// Along the surface to where it lies farthest that way (unit), by small steps and not over a fold: the side of
// a nose. The place itself where it is that already.
Vec3 climbed(const SurfaceQuery& surface, const Vec3& from, const Vec3& way);

}  // namespace veld
