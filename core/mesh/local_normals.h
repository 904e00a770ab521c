#pragma once
// Normals after a few vertices moved, without going over the whole mesh.
#include "core/mesh/topology.h"

namespace veld {

// normals: of all vertices, as vertex_normals() made them; those around `moved` are made again.
// triangles_of: vertex_triangles(triangles). Returns the vertices whose normal was made again, `moved` among them.
VertexIndices renew_normals(const Points& positions, const std::vector<Triangle>& triangles,
                            const Adjacency& triangles_of, const VertexIndices& moved, Points& normals);

}  // namespace veld
