#pragma once
// Landmarks on surfaces: from a place on a triangle to a SurfacePoint, and over to the other side.
#include "core/landmark/landmarks.h"
#include "core/spatial/surface_query.h"

namespace veld {

// hit: on a fan triangle of `mesh` (triangulate(mesh)).
SurfacePoint surface_point(const Triangulation& triangulation, const SurfaceHit& hit);

// The partner of a point on the other side of the subject: through the base's symmetry plane x = 0
// by way of the placement, then onto the source's surface.
Vec3 mirror_on_source(const Vec3& point, const Similarity& source_to_kit, const SurfaceQuery& source);

// The first place of the full mesh along a ray of which a lighter version was hit at `near`: looks at
// every triangle, but needs no tree. hit.triangle counts fan triangles. `near` when nothing is closer
// than a hundredth of the mesh's size to it.
SurfaceHit exact_hit(const Mesh& mesh, const Vec3& origin, const Vec3& direction, const SurfaceHit& near);

}  // namespace veld
