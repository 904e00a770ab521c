#include <catch2/catch.hpp>

#include <jpeglib.h>
#include <lcms2.h>
#include <png.h>
#include <cstdio>
#include <cstdlib>

#include "core/io/colour_profile.h"

using namespace veld;

namespace {

// A profile of sRGB's primaries whose values are light itself.
std::vector<std::uint8_t> linear_profile() {
    const cmsCIExyY white = {0.3127, 0.3290, 1};
    const cmsCIExyYTRIPLE primaries = {{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}};
    cmsToneCurve* line = cmsBuildGamma(nullptr, 1.0);
    cmsToneCurve* curves[3] = {line, line, line};
    const cmsHPROFILE profile = cmsCreateRGBProfile(&white, &primaries, curves);
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(profile, nullptr, &size);
    std::vector<std::uint8_t> out(size);
    cmsSaveProfileToMem(profile, out.data(), &size);
    cmsCloseProfile(profile), cmsFreeToneCurve(line);
    return out;
}

Image png_with(const std::vector<std::uint8_t>& profile, std::uint8_t value) {
    Image out{"grey.png", "image/png", {}};
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png_create_info_struct(png);
    png_set_write_fn(
        png, &out.bytes,
        [](png_structp p, png_bytep data, png_size_t size) {
            auto& to = *static_cast<std::vector<std::uint8_t>*>(png_get_io_ptr(p));
            to.insert(to.end(), data, data + size);
        },
        nullptr);
    png_set_IHDR(png, info, 4, 1, 8, PNG_COLOR_TYPE_RGB, PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT,
                 PNG_FILTER_TYPE_DEFAULT);
    if (!profile.empty())
        png_set_iCCP(png, info, "linear", PNG_COMPRESSION_TYPE_BASE, profile.data(),
                     static_cast<png_uint_32>(profile.size()));
    png_write_info(png, info);
    std::vector<std::uint8_t> row(12, value);
    png_write_row(png, row.data());
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    return out;
}

Image print_jpeg(const std::array<std::uint8_t, 4>& stored) {
    jpeg_compress_struct jpeg;
    jpeg_error_mgr errors;
    jpeg.err = jpeg_std_error(&errors);
    jpeg_create_compress(&jpeg);
    unsigned char* bytes = nullptr;
    unsigned long size = 0;
    jpeg_mem_dest(&jpeg, &bytes, &size);
    jpeg.image_width = 16, jpeg.image_height = 8, jpeg.input_components = 4, jpeg.in_color_space = JCS_CMYK;
    jpeg_set_defaults(&jpeg);
    jpeg_set_quality(&jpeg, 100, TRUE);
    jpeg_start_compress(&jpeg, TRUE);
    std::vector<JSAMPLE> row;
    for (int x = 0; x < 16; ++x) row.insert(row.end(), stored.begin(), stored.end());
    JSAMPROW line = row.data();
    while (jpeg.next_scanline < 8) jpeg_write_scanlines(&jpeg, &line, 1);
    jpeg_finish_compress(&jpeg);
    Image out{"print.jpg", "image/jpeg", {bytes, bytes + size}};
    jpeg_destroy_compress(&jpeg);
    std::free(bytes);
    return out;
}

}  // namespace

TEST_CASE("Pictures: what a file's profile says becomes sRGB") {
    const auto plain = decode_image(png_with({}, 128)), linear = decode_image(png_with(linear_profile(), 128));
    REQUIRE(plain);
    REQUIRE(linear);
    CHECK(static_cast<int>(plain->rgba[0]) == 128);
    CHECK(std::abs(linear->rgba[4] - 188) <= 1);  // half of the light
    CHECK(linear->rgba[7] == 255);
    // one that is no profile changes nothing
    Pixels pixels{1, 1, {10, 20, 30, 255}};
    to_srgb(pixels, {1, 2, 3});
    CHECK(pixels.rgba == std::vector<std::uint8_t>{10, 20, 30, 255});
}

TEST_CASE("Pictures: print colours of a JPEG are read, stored upside down as they usually are") {
    // the library writes the marker of those programs with CMYK: 255 is no ink
    const auto red = decode_image(print_jpeg({255, 20, 20, 255}));
    REQUIRE(red);
    CHECK(red->rgba[0] > 240);
    CHECK(red->rgba[1] < 40);
    CHECK(red->rgba[2] < 40);
    const auto dark = decode_image(print_jpeg({255, 255, 255, 30}));
    REQUIRE(dark);
    CHECK(dark->rgba[0] < 45);
}
