#include "core/spatial/sight.h"

namespace veld {

bool seen_from(const SurfaceQuery& surface, const Similarity& to_eye, const Vec3& eye, const Vec3& place,
               double slack) {
    const Similarity back = to_eye.inverse();
    const Vec3 origin = back(eye), direction = back(place) - origin;
    const SurfaceHit hit = surface.first_hit(origin, direction);
    return !hit || hit.distance > direction.norm() - slack / to_eye.scale;
}

std::optional<Plane> plane_of_line(const Vec3& from, const Vec3& from_direction, const Vec3& to,
                                   const Vec3& to_direction) {
    // through the eye and the line; of parallel rays, through the line and along them
    constexpr double kAhead = 1000;
    const Vec3 across = (to + kAhead * to_direction.normalized()) - (from + kAhead * from_direction.normalized());
    Vec3 normal = across.cross(from_direction).normalized();
    if (!normal.allFinite() || normal.norm() < 0.5) return {};
    if (normal.y() < 0) normal = -normal;
    return Plane::through(from, normal);
}

}  // namespace veld
