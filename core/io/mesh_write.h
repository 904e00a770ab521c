#pragma once
// A mesh back out as a file, with everything that belongs to it.
#include "core/mesh/mesh.h"

namespace veld {

// By extension: .obj (with .mtl and its textures beside it), .ply (binary, vertex colours), .stl
// (binary), .glb (textures inside; metres: positions are multiplied by metres_per_unit).
Status write_mesh(const std::string& path, const Mesh& mesh, double metres_per_unit, const std::string& comment = {});

}  // namespace veld
