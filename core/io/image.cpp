#include "core/io/image.h"

#include <jpeglib.h>
#include <png.h>
#include <csetjmp>
#include <cstdio>
#include <cstdlib>

#include "core/base/file.h"
#include "core/io/colour_profile.h"
#include "core/io/image_formats.h"

namespace veld {
namespace {

struct JpegErrors {
    jpeg_error_mgr base;
    std::jmp_buf back;
};

// Ink and black to light; programs of one maker store both inverted, and say so.
std::uint8_t from_print(const std::uint8_t* cmyk, unsigned channel, const jpeg_decompress_struct& jpeg) {
    const unsigned ink = cmyk[channel], black = cmyk[3];
    const bool inverted = jpeg.saw_Adobe_marker;
    return static_cast<std::uint8_t>(inverted ? ink * black / 255 : (255 - ink) * (255 - black) / 255);
}

// Everything that has a destructor lives in the caller: libjpeg leaves by longjmp.
bool decode_jpeg(const std::vector<std::uint8_t>& bytes, Pixels& out, std::vector<std::uint8_t>& row,
                 std::vector<std::uint8_t>& profile) {
    jpeg_decompress_struct jpeg;
    JpegErrors errors;
    jpeg.err = jpeg_std_error(&errors.base);
    errors.base.error_exit = [](j_common_ptr info) {
        std::longjmp(reinterpret_cast<JpegErrors*>(info->err)->back, 1);
    };
    errors.base.output_message = [](j_common_ptr) {};
    if (setjmp(errors.back)) {
        jpeg_destroy_decompress(&jpeg);
        return false;
    }
    jpeg_create_decompress(&jpeg);
    jpeg_mem_src(&jpeg, bytes.data(), static_cast<unsigned long>(bytes.size()));
    jpeg_save_markers(&jpeg, JPEG_APP0 + 2, 0xffff);
    jpeg_read_header(&jpeg, TRUE);
    if (jpeg.image_width > kMostPixels || jpeg.image_height > kMostPixels) std::longjmp(errors.back, 1);
    // the library turns print colours no farther than CMYK
    const bool print = jpeg.jpeg_color_space == JCS_CMYK || jpeg.jpeg_color_space == JCS_YCCK;
    jpeg.out_color_space = print ? JCS_CMYK : JCS_RGB;
    jpeg_start_decompress(&jpeg);
    JOCTET* icc = nullptr;
    unsigned icc_size = 0;
    if (jpeg_read_icc_profile(&jpeg, &icc, &icc_size)) {
        profile.assign(icc, icc + icc_size);
        std::free(icc);
    }
    out.width = static_cast<int>(jpeg.output_width), out.height = static_cast<int>(jpeg.output_height);
    out.rgba.resize(std::size_t{4} * jpeg.output_width * jpeg.output_height);
    row.resize(std::size_t{4} * jpeg.output_width);
    std::uint8_t* to = out.rgba.data();
    while (jpeg.output_scanline < jpeg.output_height) {
        JSAMPROW line = row.data();
        jpeg_read_scanlines(&jpeg, &line, 1);
        for (unsigned x = 0; x < jpeg.output_width; ++x, to += 4) {
            to[3] = 255;
            for (unsigned k = 0; k < 3; ++k) to[k] = print ? from_print(line + 4 * x, k, jpeg) : line[3 * x + k];
        }
    }
    jpeg_finish_decompress(&jpeg);
    jpeg_destroy_decompress(&jpeg);
    return true;
}

}  // namespace

bool is_picture_name(const std::string& path) {
    const std::string e = lower_extension(path);
    for (const char* known : {".jpg", ".jpeg", ".png", ".tif", ".tiff", ".heic", ".heif"}) {
        if (e == known) return true;
    }
    return false;
}

Result<Pixels> decode_image(const Image& image, PixelBits bits) {
    Pixels out;
    if (image.bytes.size() < 8) return unreadable(image, "it is empty");
    if (image.bytes[0] == 0xff && image.bytes[1] == 0xd8) {
        std::vector<std::uint8_t> row, profile;
        if (!decode_jpeg(image.bytes, out, row, profile))
            return unreadable(image, "it is no complete JPEG, or too large");
        to_srgb(out, profile);
        return out;
    }
    if (is_tiff(image.bytes)) return decode_tiff(image, bits);
    if (is_heic(image.bytes)) return decode_heic(image);
    if (is_png(image.bytes)) return decode_png(image, bits);
    return unreadable(image, "it is no JPEG, PNG, TIFF or HEIC");
}

std::vector<std::uint8_t> encode_png(const Pixels& pixels) {
    png_image png{};
    png.version = PNG_IMAGE_VERSION;
    png.width = static_cast<png_uint_32>(pixels.width), png.height = static_cast<png_uint_32>(pixels.height);
    png.format = PNG_FORMAT_RGBA;
    png_alloc_size_t size = 0;
    if (!png_image_write_get_memory_size(png, size, 0, pixels.rgba.data(), 0, nullptr)) return {};
    std::vector<std::uint8_t> out(size);
    if (!png_image_write_to_memory(&png, out.data(), &size, 0, pixels.rgba.data(), 0, nullptr)) return {};
    out.resize(size);
    return out;
}

}  // namespace veld
