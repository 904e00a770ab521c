#pragma once
// Landmarks on surfaces: from a place on a triangle to a SurfacePoint, from a light version to the full mesh.
#include "core/landmark/landmarks.h"
#include "core/mesh/mesh.h"
#include "core/spatial/surface_query.h"

namespace veld {

// hit: on a fan triangle of `mesh` (triangulate(mesh)).
SurfacePoint surface_point(const Triangulation& triangulation, const SurfaceHit& hit);

// The first place of the full mesh along a ray of which a lighter version was hit at `near`: looks at
// every triangle, but needs no tree. hit.triangle counts fan triangles. `near` when nothing is closer
// than a hundredth of the mesh's size to it.
SurfaceHit exact_hit(const Mesh& mesh, const Vec3& origin, const Vec3& direction, const SurfaceHit& near);

}  // namespace veld
