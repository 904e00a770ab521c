#pragma once
// What a scanned figure stands on: a disc, a mat, the studio's ground.
#include <cstdint>

#include "core/base/similarity.h"
#include "core/mesh/mesh.h"

namespace veld {

// Per vertex: 1 on the plane under the feet. positions: upright within some degrees, mm. The plane with the
// most area among the level faces in the lowest sixteenth of the height, if it is larger than any soles are.
VertexMask floor_vertices(const Points& positions, const std::vector<Triangle>& triangles);

// The same of a source as a mask for prepare_source(), joined with what is ignored anyway (may be null).
VertexMask ignored_with_floor(const Mesh& source, const Similarity& to_upright, const VertexMask* ignored);

}  // namespace veld
