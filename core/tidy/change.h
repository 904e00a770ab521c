#pragma once
// What every clean-up tool works on and gives back.
//
// Tools never change their input: they return a new mesh and say where its vertices came from, so
// that what hangs on vertices (ignore paint) and on places (landmarks) can follow. UVs, groups,
// materials and textures stay with the faces they belong to. Lengths are in the mesh's own unit.
#include <optional>

#include "core/base/progress.h"
#include "core/mesh/mesh.h"

namespace veld {

struct Changed {
    Mesh mesh;
    std::vector<Index> origin;  // old vertex of each new one, kNone: made by the tool; empty: all as before
    std::string said;           // what was done, in plain words, with counts
    std::size_t count = 0;      // how many things were repaired; 0: the mesh is as it was
};

// Faces with keep[f] != 0, in order. Vertices, UVs and normals that no face uses any more are left
// out when drop_unused.
Changed keep_faces(const Mesh& mesh, const FaceMask& keep, bool drop_unused = true);

// Appends triangles whose corners are vertices of the mesh (new vertices were appended before).
// uv: one entry per corner into mesh.uvs, or empty. like: the face whose group and material they take.
void append_triangles(Mesh& mesh, const std::vector<Triangle>& triangles, const std::vector<Triangle>& uv, Index like);

// `values` (one per old vertex) carried over to the new vertices; made ones get `fresh`.
template <class Values>
Values carried(const Values& values, const Changed& change, typename Values::value_type fresh = {}) {
    if (values.empty() || change.origin.empty()) return values;
    Values out;
    out.reserve(change.origin.size());
    for (Index v : change.origin) out.push_back(v == kNone ? fresh : values[v]);
    return out;
}

// "1 face", "3 faces": counts as people write them.
std::string counted(std::size_t n, const std::string& one, const std::string& many = {});

}  // namespace veld
