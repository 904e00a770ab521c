#pragma once
// A mesh as bytes, for the project file and between processes: every array as it is, little-endian.
#include "core/mesh/mesh.h"

namespace veld {

std::string mesh_to_blob(const Mesh& mesh);
Result<Mesh> mesh_from_blob(std::string_view bytes);

}  // namespace veld
