#pragma once
// One vertex where a file has several.
//
// Formats that know one UV and one normal per vertex double their vertices along texture seams and where materials
// meet; a head and a body may come as two meshes that end at the same line. Such vertices are joined for work, and the
// way back is kept, so that everything can be given back in the file's own order.
#include "core/mesh/mesh.h"

namespace veld {

struct JoinedMesh {
    Mesh mesh;  // faces and corners as they were; vertices in the order of their first use in the file
    std::vector<Index> work_of;  // per vertex of the file's mesh: the joined mesh's
};

// Vertices become one along open edges that lie on one another, end to end, run in opposite directions and do not fold
// back (lips that touch stay two sheets). Places must be the same to the last bit. apart: null, or for each vertex a
// number; vertices of different numbers are never joined (another skin weight, another move of a target).
JoinedMesh join_seams(const Mesh& mesh, const std::vector<std::uint64_t>* apart = nullptr);

}  // namespace veld
