#pragma once
// Vertices that did not come back although what lies around them did: deleted, or merged with a neighbour.
#include "core/exchange/return_check.h"

namespace veld {

// piece: the base's vertices that should have come back. A vertex that lies so near to one that did that a "merge by
// distance" has joined them moves as that one does; others take the smooth (harmonic) change of what lies around them.
// Stretches of more than a twentieth of the piece stay where they are: nothing says where they belong. Returns what
// was moved, and says it in steps.
VertexIndices fill_gaps(const BaseKit& kit, const std::vector<Index>& piece, const VertexMask& returned,
                        Points& positions, std::vector<ReturnStep>& steps);

}  // namespace veld
