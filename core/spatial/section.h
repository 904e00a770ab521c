#pragma once
// A surface cut by a plane, as lines.
#include "core/base/plane.h"

namespace veld {

// Polylines in which the plane meets the triangles, joined where triangles share an edge; closed ones end where they
// began. A vertex on the plane counts as in front of it, so nothing is cut twice.
std::vector<Points> section(const Points& positions, const std::vector<Triangle>& triangles, const Plane& plane);

}  // namespace veld
