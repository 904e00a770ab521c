#pragma once
// Two skins on the same UVs as one.
#include "core/base/result.h"
#include "core/io/image.h"

namespace veld {

// Two people's skins, 0 the first, 1 the second; the larger size is taken. Fails with BadInput when one is empty.
Result<Pixels> blend_skins(const Pixels& a, const Pixels& b, double share);

}  // namespace veld
