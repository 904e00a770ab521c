#pragma once
// A GLB again, with other positions of its vertices and further morph targets; all else in it stays as it was: joints,
// skin weights, targets, materials, textures, animations, whatever other programs keep in it.
#include <string>
#include <string_view>

#include "core/io/mesh_file.h"

namespace veld {

struct GlbChange {
    Points positions;                 // per vertex of the mesh that read_mesh gives for it, in the same frame
    Points normals;                   // the same; empty: those of the file go
    std::vector<FileTarget> targets;  // added after those that it has
};

// bytes: of a .glb. Fails as the reader, with BadInput where a mesh that stands in several places would have to become
// several, and Unsupported where the data lie in other files.
Result<std::string> rewrite_glb(std::string_view bytes, const std::string& path, const GlbChange& change);

// A .gltf with all that it refers to (buffers and pictures in other files or as text) as one .glb; vertices and all
// else in the same order. Fails as read_file, and with BadFile where it is no glTF or names what is not there.
Result<std::string> pack_gltf(const std::string& path);

}  // namespace veld
