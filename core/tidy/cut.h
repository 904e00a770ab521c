#pragma once
// Cut by a plane: what lies in front of it stays. Planes are in the mesh's own coordinates.
#include "core/base/plane.h"
#include "core/tidy/change.h"

namespace veld {

// Faces that the plane crosses are cut there; new vertices lie on it, with UV and colour in
// proportion. Vertices nearer than a millionth of the mesh's size count as on the plane, so no
// sliver appears. Fails with DegenerateInput when the normal has no length or nothing would be left.
Result<Changed> cut_by_plane(const Mesh& mesh, const Plane& plane, const Progress& progress = {});

// Faces that lie wholly behind the plane.
FaceMask faces_behind(const Mesh& mesh, const Plane& plane);

}  // namespace veld
