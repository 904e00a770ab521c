#pragma once
// A shape as a small grey picture from the front, for lists: no graphics card, no camera.
#include <cstdint>
#include <vector>

#include "core/mesh/mesh.h"

namespace veld {

struct SmallPicture {
    int side = 0;                    // pixels
    std::vector<std::uint8_t> grey;  // row by row from above; as light as the surface faces a lamp from above left
    std::vector<std::uint8_t> seen;  // 255 where there is some of the shape, else 0
};

// What of the shape lies in the box (not empty) as it is seen along -Z, parallel. Depth-buffered, a sample a pixel.
SmallPicture small_picture(const Points& positions, const std::vector<Triangle>& triangles, const Box& box, int side);

}  // namespace veld
