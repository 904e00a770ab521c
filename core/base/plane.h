#pragma once
// A plane: the places whose dot product with the normal is the offset.
#include "core/base/types.h"

namespace veld {

struct Plane {
    Vec3 normal = Vec3::UnitX();  // unit; no length: there is no such plane
    double offset = 0;            // along the normal
    // normal: need not be unit
    static Plane through(const Vec3& point, const Vec3& normal) {
        const Vec3 unit = normal.normalized();
        return {unit, unit.dot(point)};
    }
    double side(const Vec3& p) const { return normal.dot(p) - offset; }  // above 0: in front
    // Where the ray meets it; behind the origin as well. Not finite when it runs along the plane.
    Vec3 meets(const Vec3& origin, const Vec3& direction) const {
        return origin - side(origin) / normal.dot(direction) * direction;
    }
    Vec3 nearest(const Vec3& p) const { return p - side(p) * normal; }
};

}  // namespace veld
