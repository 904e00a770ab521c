#pragma once
// Meshes put beside one another by how their faces hang together alone: no UVs, no places.
//
// Connected pieces with the same counts are candidates. Within a piece one rare corner is selected (rare by the sizes
// of the faces and fans around it), laid on every corner of the other that looks alike, and the rest follows by
// walking from face to face; a walk that contradicts itself is dropped. Pieces that can be laid on one another in
// several ways (an eyeball turned about its axis, a left and a right eye) are decided by where they lie.
#include "core/mesh/mesh.h"

namespace veld {

struct Isomorphism {
    std::vector<Index> first_of;  // per vertex of the second; kNone: its piece is like none of the first
    VertexIndices ambiguous;      // vertices of the second whose piece lay equally well in several ways
};
Isomorphism match_by_faces(const Mesh& first, const Mesh& second);

}  // namespace veld
