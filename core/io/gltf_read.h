#pragma once
// glTF 2.0, text and binary. Node transforms are applied, every mesh of the scene is joined into
// one, textures are kept as encoded bytes. Triangles, strips and fans; sparse accessors are read for targets only.
// What a skin moves stands as its joints stand in the file. UVs are turned to our lower-left origin.
#include "core/io/mesh_file.h"

namespace veld {

// folder: where outside buffers and images are looked up. bytes: .glb or .gltf content.
Result<MeshFile> parse_gltf(std::string_view bytes, const std::string& path, const std::string& folder);
Result<MeshFile> read_gltf(const std::string& path);

// Where the joined mesh's vertices come from.
struct GltfPiece {
    int node = -1;
    std::size_t mesh = 0, primitive = 0;
    Index first = 0, count = 0;  // vertices of the joined mesh
    Eigen::Affine3d to_scene = Eigen::Affine3d::Identity();
    std::vector<Eigen::Affine3d> each;  // per vertex, of what a skin moves; empty: to_scene for all
    const Eigen::Affine3d& at(Index i) const { return each.empty() ? to_scene : each[i]; }
};
struct GltfReading {
    MeshFile file;
    std::vector<GltfPiece> pieces;  // in the order of reading; several may share their vertices
};
Result<GltfReading> read_gltf_pieces(std::string_view bytes, const std::string& path, const std::string& folder);

}  // namespace veld
