#pragma once
// The border between files and the core: any mesh file in, with what was noticed on the way.
#include <optional>
#include <string>
#include <vector>

#include "core/base/progress.h"
#include "core/base/result.h"
#include "core/base/units.h"
#include "core/mesh/mesh.h"
#include "core/rig/rig.h"

namespace veld {

// A named morph target that a file brings along.
struct FileTarget {
    std::string name, about;  // about: JSON text of what else was said of it, or empty
    Points delta;             // per vertex of the mesh, the file's own unit and axes
};

// The joints that a file brings along, parents first, where they stand in it.
struct FileSkin {
    std::vector<Joint> joints;
    SkinWeights weights;      // per vertex of the mesh, the four strongest, adding up to 1; all 0: it follows none
    bool has_weights = true;  // false: there are joints, and nothing follows them
};

struct MeshFile {
    Mesh mesh;                             // in the file's own unit and axes
    std::vector<std::string> notes;        // what was skipped or repaired, in plain words
    std::vector<FileTarget> targets = {};  // glTF only
    std::optional<FileSkin> skin = {};     // glTF only
};

// By extension: .obj .ply .stl .glb .gltf, and what the general importer reads besides (only that one can be
// cancelled). The mesh has passed check_mesh.
Result<MeshFile> read_mesh(const std::string& path, const Progress& progress = {});

}  // namespace veld
