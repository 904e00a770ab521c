#pragma once
// One mesh with morph targets, joints and skin weights as binary glTF 2.0.
//
// glTF knows only one UV and normal per vertex, so vertices are split where the mesh's corners
// differ, polygons become fan triangles, and each material becomes a primitive. UVs are turned to
// glTF's upper-left origin. Targets are sparse accessors where that is smaller.
#include <map>

#include "core/mesh/mesh.h"
#include "core/rig/rig.h"

namespace veld {

struct GlbTarget {
    std::string name;
    Points delta;       // per vertex of the mesh
    double weight = 0;  // default
    std::string about;  // JSON object for the mesh's extras, or empty
};

// What a material shows; what has no bytes stays as it is.
struct GlbPictures {
    Image colour, normal, occlusion;
};
// Materials in place of the mesh's own that a viewer can choose as one (KHR_materials_variants).
struct GlbVariant {
    std::string name;
    std::map<std::string, GlbPictures> materials;  // by the names of the mesh's; the others stay
};

struct GlbModel {
    std::string name;
    const Mesh* mesh = nullptr;
    const std::vector<Joint>* joints = nullptr;  // may be null or empty: no skin
    const SkinWeights* weights = nullptr;
    const SkinWeights* more_weights = nullptr;  // null or empty: nobody hangs on more than four joints
    std::vector<GlbTarget> targets;
    double metres_per_unit = 0.001;
    std::map<std::string, GlbPictures> pictures;  // of materials by name, beside or in place of the mesh's own
    std::vector<GlbVariant> variants;
};

std::string glb_bytes(const GlbModel& model);

}  // namespace veld
