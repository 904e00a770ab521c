#pragma once
// One vertex per (vertex, UV) pair and one triangle list per material: the form that graphics
// hardware and glTF want.
#include "core/mesh/mesh.h"

namespace veld {

struct MaterialSplit {
    Index material = kNone;
    std::vector<Index> vertex;        // mesh vertex of each split vertex
    std::vector<Vec2> uv;             // parallel to vertex, lower-left origin; (0,0) where there is none
    std::vector<Triangle> triangles;  // into `vertex`
};

// One entry per material in use, in ascending order; faces in file order within each.
std::vector<MaterialSplit> split_by_material(const Mesh& mesh);

// The same vertices and pictures without the faces that have a corner where `left_out` is set (per vertex).
Mesh without_faces_on(const Mesh& mesh, const VertexMask& left_out);

}  // namespace veld
