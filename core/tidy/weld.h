#pragma once
// Vertices that belong together become one.
#include "core/tidy/change.h"

namespace veld {

// Every vertex goes to the nearest earlier one within `distance` that stayed (0: the very same
// place). UVs and normals stay with their corners, so texture seams survive. Faces that fold to
// fewer than three different corners are left out.
Changed weld(const Mesh& mesh, double distance, const Progress& progress = {});

}  // namespace veld
