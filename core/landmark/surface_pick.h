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

}  // namespace veld
