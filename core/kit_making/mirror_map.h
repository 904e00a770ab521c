#pragma once
// Which vertex is which on the other side.
//
// By how the faces hang together: the mesh is laid on its own mirror image, piece by piece, walking from face to face
// (core/spatial/isomorphism.h), so that an asymmetric shape is no obstacle. Where the faces differ between the sides,
// pairs that lie in mirrored places are taken, and grow from face to face as far as the faces agree.
#include "core/mesh/mesh.h"

namespace veld {

struct MirrorMap {
    std::vector<Index> partner;  // its own on the middle line; kNone: it has none. partner[partner[v]] == v
    std::size_t by_faces = 0, by_place = 0;
    std::size_t without() const;
};

// mesh: upright, facing +Z, its middle near x = 0. reach_mm: how far a vertex may lie from its partner's mirrored
// place where only places tell.
MirrorMap find_mirror_map(const Mesh& mesh, double reach_mm);

}  // namespace veld
