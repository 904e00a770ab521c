#pragma once
// What colour a face has: from vertex colours, or from the texture at its middle.
#include "core/tidy/change.h"

namespace veld {

// sRGB 0..1 per face; materials without a texture give their own colour.
std::vector<std::array<float, 3>> face_colours(const Mesh& mesh);

// CIELAB (D65) of an sRGB colour: distances are about even to the eye; L 0..100.
Vec3 lab_of(const std::array<double, 3>& srgb);

// Faces within `tolerance` * 100 of the colour in CIELAB.
FaceMask faces_of_colour(const Mesh& mesh, const std::array<double, 3>& srgb, double tolerance);

}  // namespace veld
