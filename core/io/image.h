#pragma once
// Pixels of JPEG and PNG bytes (libjpeg-turbo, libpng).
#include "core/mesh/mesh.h"

namespace veld {

struct Pixels {
    int width = 0, height = 0;
    std::vector<std::uint8_t> rgba;   // rows from the top
};

// At most 16384 x 16384. Fails with BadFile and the image's name in the message.
Result<Pixels> decode_image(const Image& image);
std::vector<std::uint8_t> encode_png(const Pixels& pixels);

}  // namespace veld
