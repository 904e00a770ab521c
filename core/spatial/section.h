#pragma once
// A surface cut by a plane, as lines.
#include "core/base/plane.h"
#include "core/base/similarity.h"

namespace veld {

// Polylines in which the plane meets the triangles, joined where triangles share an edge; closed ones end where they
// began. A vertex on the plane counts as in front of it, so nothing is cut twice.
std::vector<Points> section(const Points& positions, const std::vector<Triangle>& triangles, const Plane& plane);
// The same where the mesh lies in the plane's frame by to_plane; the lines are in that frame.
std::vector<Points> section(const Points& positions, const std::vector<Triangle>& triangles, const Plane& plane,
                            const Similarity& to_plane);

}  // namespace veld
