#pragma once
// Pictures of other colour spaces as sRGB (little-cms).
#include "core/io/image.h"

namespace veld {

// profile: ICC, of RGB, as a file carries it. Perceptual intent with black-point compensation. Left as they are where
// the profile cannot be read, is of another kind of colours, or is sRGB itself.
void to_srgb(Pixels& pixels, const std::vector<std::uint8_t>& profile);

// The profile that a PNG carries; empty: none.
std::vector<std::uint8_t> png_profile(const std::vector<std::uint8_t>& bytes);

}  // namespace veld
