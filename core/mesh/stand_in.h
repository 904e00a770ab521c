#pragma once
// A reduced stand-in for drawing a heavy mesh while the camera moves.
//
// Vertex clustering on a grid [Rossignac & Borrel 1993]: every vertex is replaced by the first one in
// its cell, triangles that collapse or repeat are dropped. Uses the vertices that are there, so it is
// only another index list; never used for anything but looking.
#include "core/mesh/mesh.h"

namespace veld {

// About `wanted` triangles or fewer; the input itself when it is small enough already.
std::vector<Triangle> stand_in_triangles(const Points& positions, const std::vector<Triangle>& triangles,
                                         std::size_t wanted);

// A heavy mesh as a lighter one for looking and picking, with its own UVs, materials and colours.
// origin: vertex of the heavy mesh for each of the light one's.
struct LightMesh {
    Mesh mesh;
    std::vector<Index> origin;
};
LightMesh light_version(const Mesh& mesh, std::size_t wanted_triangles);

}  // namespace veld
