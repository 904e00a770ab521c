#pragma once
// Pixels of JPEG, PNG, TIFF and HEIC bytes (libjpeg-turbo, libpng, libtiff, libheif).
#include "core/mesh/mesh.h"

namespace veld {

struct Pixels {
    int width = 0, height = 0;
    std::vector<std::uint8_t> rgba;  // rows from the top
    // The same with 16 bits a channel, where the file holds more than 8 and they were asked for; else empty.
    std::vector<std::uint16_t> rgba16 = {};
};
enum class PixelBits { Eight, Sixteen };

// By the ending: .jpg .jpeg .png .tif .tiff .heic .heif
bool is_picture_name(const std::string& path);
// As sRGB, whatever profile or gamma the file carries. At most 16384 x 16384. Sixteen: of PNG and TIFF. Fails with
// BadFile and the image's name in the message.
Result<Pixels> decode_image(const Image& image, PixelBits bits = PixelBits::Eight);
std::vector<std::uint8_t> encode_png(const Pixels& pixels);

}  // namespace veld
