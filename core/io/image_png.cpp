#include <png.h>

#include <cmath>
#include <csetjmp>
#include <cstring>
#include <limits>

#include "core/io/colour_profile.h"
#include "core/io/image_formats.h"
#include "core/io/map_image.h"

namespace veld {
namespace {

constexpr double kSameGamma = 0.05;  // by which a gamma may differ from sRGB's and still mean it

struct PngBytes {
    const std::vector<std::uint8_t>& all;
    std::size_t at = 0;
};

struct PngFile {
    png_uint_32 width = 0, height = 0;
    bool sixteen = false, srgb = false;
    double gamma = 0;                   // of the file; 0: not said
    std::vector<std::uint8_t> profile;  // ICC; empty: none
    std::vector<std::uint8_t> bytes;    // RGBA rows from the top, of 8 or 16 bits
    std::vector<png_bytep> rows;
    const char* why = "it is damaged or cut short";
};

void read_bytes(png_structp png, png_bytep to, png_size_t size) {
    auto& from = *static_cast<PngBytes*>(png_get_io_ptr(png));
    if (size > from.all.size() - from.at) png_error(png, "short");
    std::memcpy(to, from.all.data() + from.at, size);
    from.at += size;
}

void read_colour_space(png_structp png, png_infop info, PngFile& out) {
    int intent = 0, method = 0;
    png_charp name = nullptr;
    png_bytep data = nullptr;
    png_uint_32 size = 0;
    out.srgb = png_get_sRGB(png, info, &intent) != 0;
    if (png_get_iCCP(png, info, &name, &method, &data, &size)) out.profile.assign(data, data + size);
    if (!png_get_gAMA(png, info, &out.gamma)) out.gamma = 0;
}

// What has a destructor lives in the caller: libpng leaves by longjmp.
bool read_png(PngBytes& from, PngFile& out) {
    png_structp png = png_create_read_struct(
        PNG_LIBPNG_VER_STRING, nullptr, [](png_structp p, png_const_charp) { std::longjmp(png_jmpbuf(p), 1); },
        [](png_structp, png_const_charp) {});
    png_infop info = png ? png_create_info_struct(png) : nullptr;
    if (!info || setjmp(png_jmpbuf(png))) {
        png_destroy_read_struct(&png, &info, nullptr);
        return false;
    }
    png_set_read_fn(png, &from, read_bytes);
    png_read_info(png, info);
    out.width = png_get_image_width(png, info), out.height = png_get_image_height(png, info);
    if (out.width > kMostPixels || out.height > kMostPixels) {
        out.why = "it is too large";
        png_error(png, "large");
    }
    out.sixteen = png_get_bit_depth(png, info) == 16;
    read_colour_space(png, info, out);
    png_set_expand(png), png_set_gray_to_rgb(png);
    png_set_add_alpha(png, 0xffff, PNG_FILLER_AFTER);
    if (out.sixteen) png_set_swap(png);  // the file's order is the other one
    png_set_interlace_handling(png);
    png_read_update_info(png, info);
    const std::size_t row = png_get_rowbytes(png, info);
    out.bytes.resize(row * out.height);
    for (png_uint_32 y = 0; y < out.height; ++y) out.rows.push_back(out.bytes.data() + row * y);
    png_read_image(png, out.rows.data());
    png_read_end(png, nullptr);
    png_destroy_read_struct(&png, &info, nullptr);
    return true;
}

// Values that stand for light by a gamma of the file's own as sRGB.
template <class Value>
void from_gamma(std::vector<Value>& rgba, double gamma) {
    constexpr double kMost = std::numeric_limits<Value>::max();
    std::vector<Value> table(std::size_t{1} + std::numeric_limits<Value>::max());
    for (std::size_t i = 0; i < table.size(); ++i)
        table[i] = static_cast<Value>(
            std::lround(kMost * linear_to_srgb(std::pow(static_cast<double>(i) / kMost, 1 / gamma))));
    for (std::size_t i = 0; i < rgba.size(); ++i) {
        if (i % 4 != 3) rgba[i] = table[rgba[i]];
    }
}

}  // namespace

bool is_png(const std::vector<std::uint8_t>& bytes) {
    return bytes.size() >= 8 && png_sig_cmp(bytes.data(), 0, 8) == 0;
}

Result<Pixels> decode_png(const Image& image, PixelBits bits) {
    PngBytes from{image.bytes};
    PngFile file;
    if (!read_png(from, file)) return unreadable(image, file.why);
    Pixels out;
    out.width = static_cast<int>(file.width), out.height = static_cast<int>(file.height);
    if (file.sixteen) {
        out.rgba16.resize(file.bytes.size() / 2);
        std::memcpy(out.rgba16.data(), file.bytes.data(), file.bytes.size());
    } else {
        out.rgba = std::move(file.bytes);
    }
    const bool own_gamma =
        !file.srgb && file.profile.empty() && file.gamma > 0 && std::abs(2.2 * file.gamma - 1) > kSameGamma;
    if (own_gamma) file.sixteen ? from_gamma(out.rgba16, file.gamma) : from_gamma(out.rgba, file.gamma);
    if (file.sixteen) {
        out.rgba.resize(out.rgba16.size());
        for (std::size_t i = 0; i < out.rgba.size(); ++i) out.rgba[i] = eight_of(out.rgba16[i]);
    }
    to_srgb(out, file.profile);
    if (bits == PixelBits::Eight) out.rgba16 = {};
    return out;
}

}  // namespace veld
