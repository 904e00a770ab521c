#pragma once
// Soft weights painted on the base.
#include "core/touchup/brush.h"

namespace veld {

// One touch: what was reached comes up to (or, erasing, down by) the brush's own weight there; on the other side too
// when mirrored. weights: per vertex, 0..1.
void paint_weights(const BaseKit& kit, const std::vector<Touched>& reached, bool erase, bool mirrored,
                   std::vector<float>& weights);

}  // namespace veld
