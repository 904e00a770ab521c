#pragma once
// What the readers of pictures share: PNG, TIFF and HEIC behind decode_image() and read_exif(); each in a file of its
// own because of their libraries.
#include "core/io/exif.h"
#include "core/io/image.h"

namespace veld {

constexpr unsigned kMostPixels = 16384;  // of width and of height

inline Error unreadable(const Image& image, const std::string& why) {
    return {ErrorCode::BadFile, "The image '" + image.name + "' cannot be read: " + why + "."};
}

inline std::uint8_t eight_of(std::uint16_t sixteen) { return static_cast<std::uint8_t>((sixteen + 128u) / 257u); }

bool is_png(const std::vector<std::uint8_t>& bytes);
bool is_tiff(const std::vector<std::uint8_t>& bytes);
bool is_heic(const std::vector<std::uint8_t>& bytes);
// By its profile, else its gamma; sRGB where it carries neither.
Result<Pixels> decode_png(const Image& image, PixelBits bits);
// 1 to 16 bits a sample, grey, RGB, print colours and what libtiff turns into RGB; the first picture of the file. As
// it is stored: not turned upright. Sixteen: of what is stored in rows of 16 bits.
Result<Pixels> decode_tiff(const Image& image, PixelBits bits);
// The file's main picture, upright (turned by the format itself).
Result<Pixels> decode_heic(const Image& image);
// The TIFF block of a HEIC's EXIF; empty when there is none.
std::vector<std::uint8_t> heic_exif(const std::vector<std::uint8_t>& bytes);

}  // namespace veld
