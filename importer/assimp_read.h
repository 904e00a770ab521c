#pragma once
// Any format that assimp knows, as one mesh with materials and embedded textures.
#include "core/io/mesh_file.h"

namespace veld {

// Only for the importer's own process: a damaged file may make the library take all memory, hang or crash.
Result<MeshFile> read_by_assimp(const std::string& path);

}  // namespace veld
