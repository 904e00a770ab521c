#pragma once
// What a camera wrote beside the picture (EXIF 2.32): in a JPEG's APP1 segment, a PNG's eXIf chunk, a TIFF's own
// directories, a HEIC's Exif item. Everything is optional; what is damaged is taken as not said.
#include <cstdint>
#include <vector>

namespace veld {

struct Exif {
    int orientation = 1;        // 1..8 as in the standard; 1: upright (always of a HEIC, which turns itself)
    double focal_35mm = 0;      // mm on 35 mm film, 0: not said
    int width = 0, height = 0;  // pixels when it was taken, 0: not said; another size now means scaled or cropped
};
Exif read_exif(const std::vector<std::uint8_t>& image);

}  // namespace veld
