#pragma once
// glTF 2.0, text and binary. Node transforms are applied, every mesh of the scene is joined into
// one, textures are kept as encoded bytes. Triangles, strips and fans; sparse accessors are not
// read. UVs are turned to our lower-left origin.
#include "core/io/mesh_file.h"

namespace veld {

// folder: where outside buffers and images are looked up. bytes: .glb or .gltf content.
Result<MeshFile> parse_gltf(std::string_view bytes, const std::string& path, const std::string& folder);
Result<MeshFile> read_gltf(const std::string& path);

}  // namespace veld
