#pragma once
// What an eye sees of a surface, and planes that are drawn on the screen.
#include <optional>

#include "core/base/plane.h"
#include "core/base/similarity.h"
#include "core/spatial/surface_query.h"

namespace veld {

// Is nothing between the eye and the place, but for what lies within `slack` of it? eye, place, slack: in the frame
// that to_eye leads to from the surface's own.
bool seen_from(const SurfaceQuery& surface, const Similarity& to_eye, const Vec3& eye, const Vec3& place,
               double slack);

// The plane that a line on the screen means: through the two rays of its ends. Its normal points upwards. Empty when
// both are the same ray.
std::optional<Plane> plane_of_line(const Vec3& from, const Vec3& from_direction, const Vec3& to,
                                   const Vec3& to_direction);

}  // namespace veld
