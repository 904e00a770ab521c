#pragma once
// Pictures of other colour spaces as sRGB (little-cms).
#include "core/io/image.h"

namespace veld {

// profile: ICC, of RGB, as a file carries it. Perceptual intent with black-point compensation. Left as they are where
// the profile cannot be read, is of another kind of colours, or is sRGB itself. Either 8 or, where there are any, 16
// bits are changed, and the 8 made of them.
void to_srgb(Pixels& pixels, const std::vector<std::uint8_t>& profile);

}  // namespace veld
