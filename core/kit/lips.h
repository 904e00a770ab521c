#pragma once
// The upper and the lower lip of a kit, told apart by what goes with the jaw.
#include <array>

#include "core/kit/base_kit.h"

namespace veld {

int jaw_joint(const BaseKit& kit);  // -1: the kit has none

// How much of a vertex goes with the jaw, 0..1; 0 without such a joint.
double jaw_share(const BaseKit& kit, Index vertex);

// Numbers of the kit's fan triangles within that distance of the mouth line: [0] of the upper, [1] of the lower lip.
// Both empty when the kit has no such curve or no jaw.
std::array<TriangleIndices, 2> lip_fans(const BaseKit& kit, double within_mm);

// The curves kInnerLips: where each lip lies along the mouth line. On the base they are
// one line, on an open mouth two. Nothing is done when the kit has them, or cannot tell its lips apart.
void add_inner_lips(BaseKit& kit);

}  // namespace veld
