#pragma once
// Another density of triangles for the same surface.
#include "core/tidy/change.h"

namespace veld {

// Fewer triangles by quadric edge collapses [Garland & Heckbert 1997] (meshoptimizer). Vertices are a
// subset of the old ones, so UVs, seams and colours stay exact; groups and materials keep their rims.
Changed reduce_triangles(const Mesh& mesh, std::size_t wanted, const Progress& progress = {});

// Even triangles with edges of about `edge` (mesh unit): long edges split, short ones collapsed,
// valences evened, vertices relaxed within the surface and laid back on it [Botsch & Kobbelt 2004].
// Open borders and edges with many faces keep their course. UV, material and colour are taken from the
// nearest place of the old surface, corner by corner, never across a seam. Fails with BadInput when the
// edge length would make more than 20 million triangles.
Result<Changed> remesh_evenly(const Mesh& mesh, double edge, const Progress& progress = {});

}  // namespace veld
