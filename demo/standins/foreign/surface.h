#pragma once
#include <functional>

#include "core/mesh/mesh.h"

namespace veld::foreign {

// The zero surface of a distance inside a box, by OpenVDB's mesher [Museth 2013]: quads of about `cell` mm.
// smooth_cells: rounds the solid by so many cells first, as a photogrammetric mesh does.
Mesh iso_surface(const std::function<double(const Vec3&)>& distance, const Box& box, double cell,
                 int smooth_cells = 0);

// A closed surface again as quads of about `cell` mm; sheets nearer than that grow together.
Mesh voxelised(const Points& positions, const std::vector<Triangle>& triangles, double cell);

}  // namespace veld::foreign
