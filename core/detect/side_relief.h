#pragma once
// What stands out from the side of a head: the surface seen from the side as a height field, less its morphological
// opening [Serra 1982, the top-hat]. An ear is narrower than the opening's disc, a head is not.
#include <vector>

#include "core/fit/source_surface.h"

namespace veld {

struct SideRelief {
    Points places, normals;      // of what stands out, on the surface
    std::vector<double> height;  // parallel, mm above the head's side
};

// middle: about which to look, mm; side: +1 or -1, from where along x; half: of the window's width and height.
SideRelief side_relief(const SourceSurface& surface, const Vec3& middle, double side, double half_mm);

}  // namespace veld
