#pragma once
// What a camera wrote beside the picture (EXIF 2.32, in a JPEG's APP1 segment). Everything is optional;
// what is damaged is taken as not said.
#include <cstdint>
#include <vector>

namespace veld {

struct Exif {
    int orientation = 1;     // 1..8 as in the standard; 1: upright
    double focal_35mm = 0;   // mm on 35 mm film, 0: not said
};
Exif read_exif(const std::vector<std::uint8_t>& jpeg);

}  // namespace veld
