#pragma once
// UVs for a made-up base: cut where the kit's are, but laid out otherwise (each tile a quarter turned, tiles swapped).
#include "core/kit/base_kit.h"

namespace veld {

// shape: of the kit's vertices, in which the mesh's skin lies on the kit's. kit_face: per face of the mesh, the kit's
// own face that it is; kNone: a face of another mesh of the skin. Those take the island of the place under their
// middle, and go straight on where they hang over its border.
void layout_uvs(const BaseKit& kit, const Points& shape, const std::vector<Index>& kit_face, Mesh& mesh);

}  // namespace veld
