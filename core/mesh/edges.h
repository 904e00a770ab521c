#pragma once
// Which corners share an edge. Corner c of a face stands for the edge from it to the face's next
// corner. Vertices at one place may be taken as one, so that chart seams are no borders.
#include "core/mesh/mesh.h"

namespace veld {

constexpr Index kManyFaces = kNone - 1;

struct EdgeLinks {
    std::vector<Index>
        mate;  // per corner: the corner of the other face; kNone: open border; kManyFaces: more than two
    std::vector<Index> corner_face;  // face of each corner
};

// place: same_place() of the mesh, or empty to take every vertex for itself. Linear time.
EdgeLinks link_edges(const Mesh& mesh, const std::vector<Index>& place = {});

// The corner after this one in its face.
inline Index next_corner(const Mesh& mesh, const EdgeLinks& links, Index corner) {
    const Index face = links.corner_face[corner];
    return corner + 1 < mesh.face_start[face + 1] ? corner + 1 : mesh.face_start[face];
}

// Open borders as loops of corners, each running along its faces' direction; ordered by lowest corner.
// Where borders touch in a vertex, the loop takes the edge that closes soonest around it.
std::vector<std::vector<Index>> border_loops(const Mesh& mesh, const EdgeLinks& links,
                                             const std::vector<Index>& place = {});

// Area-weighted (not unit) normal of a polygon [Newell].
Vec3 face_normal(const Mesh& mesh, Index face);
Vec3 face_centre(const Mesh& mesh, Index face);

// Component of each face through shared vertices (and places), numbered by first face.
std::vector<Index> face_components(const Mesh& mesh, const std::vector<Index>& place, Index* count);

}  // namespace veld
