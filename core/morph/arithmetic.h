#pragma once
// New morphs out of others: sums, mirrored sides, halves, bakes. Results carry no name but the one given, the kind of
// the first, and say in `origin` what they were made from.
#include "core/morph/morph.h"

namespace veld {

// sum of amount * morph; what cancels out is dropped. Roots add up too.
Result<Morph> sum_morphs(const BaseKit& kit, const std::vector<MorphAmount>& terms, const std::string& name);

// Left and right exchanged, by the kit's mirror map.
Result<Morph> mirrored_morph(const BaseKit& kit, const Morph& morph, const std::string& name);

enum class Side { Left, Right };
// What one side has, fading over soft_mm across the middle (x = 0 of the base), so that left + right = the morph
// exactly. The root goes half and half.
Result<Morph> half_morph(const BaseKit& kit, const Morph& morph, Side side, double soft_mm, const std::string& name);

// One side's shape on both: the half and its mirror image.
Result<Morph> symmetric_morph(const BaseKit& kit, const Morph& morph, Side from, double soft_mm,
                              const std::string& name);

// delta * weight, per vertex of the base (0..1).
Morph masked_morph(const Morph& morph, const std::vector<double>& weight);

// Per vertex 0..1: how far on the left side it lies.
double left_share(double x_mm, double soft_mm);

}  // namespace veld
