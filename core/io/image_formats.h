#pragma once
// What the readers of pictures share: TIFF and HEIC behind decode_image() and read_exif(); each in a file of its own
// because of their libraries.
#include "core/io/exif.h"
#include "core/io/image.h"

namespace veld {

constexpr unsigned kMostPixels = 16384;  // of width and of height

inline Error unreadable(const Image& image, const std::string& why) {
    return {ErrorCode::BadFile, "The image '" + image.name + "' cannot be read: " + why + "."};
}

bool is_tiff(const std::vector<std::uint8_t>& bytes);
bool is_heic(const std::vector<std::uint8_t>& bytes);
// 1 to 16 bits a sample, grey, RGB and what libtiff turns into it; the first picture of the file. As it is stored: not
// turned upright.
Result<Pixels> decode_tiff(const Image& image);
// The file's main picture, upright (turned by the format itself).
Result<Pixels> decode_heic(const Image& image);
// The TIFF block of a HEIC's EXIF; empty when there is none.
std::vector<std::uint8_t> heic_exif(const std::vector<std::uint8_t>& bytes);

}  // namespace veld
