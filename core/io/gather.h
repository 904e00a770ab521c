#pragma once
// Whatever a person drops: a mesh file, a folder of them, a zip archive of either.
#include "core/base/progress.h"
#include "core/io/mesh_file.h"

namespace veld {

struct GatheredMesh {
    std::string name;  // "scan.obj", "delivery.zip/scan.obj"
    std::string path;  // what was dropped, to read it again
    MeshFile file;
};

struct Gathered {
    std::vector<GatheredMesh> meshes;
    std::vector<Error> errors;  // what could not be read; the rest still comes
};

// Folders are searched two levels deep, archives wholly; OBJ with its library and textures, PLY, STL,
// glTF, GLB, and what the general importer reads besides. Archives are unpacked into a folder that is gone afterwards;
// one that would grow beyond 8 GB, or beyond 1000 files, is refused.
Gathered gather(const std::string& path, const Progress& progress = {});

bool is_mesh_file(const std::string& path);

}  // namespace veld
