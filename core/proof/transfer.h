#pragma once
// How the base's skin turns and stretches in a shape, done by another head's skin.
//
// Deformation transfer [Sumner & Popovic 2004], solved as a Poisson problem on the head's triangles [Botsch, Sumner,
// Pauly, Gross 2006]: each triangle turns and stretches as the base's does; skin that the shape does not move stays
// exactly where it is. Teeth and tongue go as the base's do, sized as the head's are; lashes ride on the lids.
#include "core/base/result.h"
#include "core/kit/base_kit.h"

namespace veld {

// Skin that a shape moves by less stays.
inline constexpr double kMovesMm = 1e-3;

// How much larger than the base's this head is.
double head_size(const BaseKit& kit, const Points& head);

// head: every vertex in the head's shape at rest; shape: of the base; out: begins as head, gets the skin. Fails with
// DegenerateInput where the head's triangles do not carry it.
Status transfer_skin(const BaseKit& kit, const Points& head, const Points& shape, Points& out);
// What is no skin. out: has the skin.
void transfer_parts(const BaseKit& kit, const Points& head, const Points& shape, Points& out);

}  // namespace veld
