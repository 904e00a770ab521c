#include "core/landmark/surface_pick.h"

namespace veld {

SurfacePoint surface_point(const Triangulation& triangulation, const SurfaceHit& hit) {
    SurfacePoint out;
    out.face = triangulation.triangle_face[hit.triangle];
    out.vertices = triangulation.triangles[hit.triangle];
    out.weights = hit.barycentric;
    return out;
}

Vec3 mirror_on_source(const Vec3& point, const Similarity& source_to_kit, const SurfaceQuery& source) {
    Vec3 p = source_to_kit(point);
    p.x() = -p.x();
    const Vec3 other = source_to_kit.inverse()(p);
    const SurfaceHit hit = source.closest(other, 1e12);
    return hit ? hit.position : other;
}

}  // namespace veld
