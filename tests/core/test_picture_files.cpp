// Pictures as scanners, telephones and large cameras write them: TIFF, HEIC, forty megapixels.
#include <libheif/heif.h>
#include <png.h>
#include <tiffio.h>

#include <array>
#include <catch2/catch.hpp>
#include <cmath>
#include <cstring>

#include "core/base/file.h"
#include "core/detect/photo_face.h"
#include "core/io/exif.h"
#include "core/photo/outline.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

std::vector<std::uint8_t> tiff_of(int bits, int width, int height, int orientation) {
    const Scratch scratch;
    const std::string path = scratch / "small.tif";
    TIFF* t = TIFFOpen(path.c_str(), "w");
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, width), TIFFSetField(t, TIFFTAG_IMAGELENGTH, height),
        TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, bits), TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 3);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB), TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG),
        TIFFSetField(t, TIFFTAG_ORIENTATION, orientation), TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, 1);
    for (int y = 0; y < height; ++y) {
        std::vector<std::uint8_t> line(static_cast<std::size_t>(TIFFScanlineSize(t)), 0);
        for (int x = 0; x < width; ++x) {
            for (int c = 0; c < 3; ++c) {
                const unsigned value = x == 0 && y == 0 ? (c == 0 ? 0xffffu : 0)
                                                        : 0x4000u;  // the first pixel is red, the rest a quarter grey
                const std::size_t i = static_cast<std::size_t>(3 * x + c);
                if (bits == 8)
                    line[i] = static_cast<std::uint8_t>(value >> 8u);
                else if (bits == 16)
                    line[2 * i] = static_cast<std::uint8_t>(value),
                             line[2 * i + 1] = static_cast<std::uint8_t>(value >> 8u);
                else {
                    const unsigned v = value >> 4u;
                    const std::size_t bit = 12 * i;
                    if (bit % 8 == 0)
                        line[bit / 8] = static_cast<std::uint8_t>(v >> 4u),
                                   line[bit / 8 + 1] = static_cast<std::uint8_t>((v & 15u) << 4u);
                    else
                        line[bit / 8] = static_cast<std::uint8_t>(line[bit / 8] | v >> 8u),
                                   line[bit / 8 + 1] = static_cast<std::uint8_t>(v);
                }
            }
        }
        TIFFWriteScanline(t, line.data(), static_cast<std::uint32_t>(y), 0);
    }
    TIFFClose(t);
    const auto bytes = read_file(path);
    const auto view = bytes->view();
    return {view.begin(), view.end()};
}

std::vector<std::uint8_t> tiff_of(const Pixels& pixels, int orientation) {
    const Scratch scratch;
    const std::string path = scratch / "large.tif";
    TIFF* t = TIFFOpen(path.c_str(), "w");
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, pixels.width), TIFFSetField(t, TIFFTAG_IMAGELENGTH, pixels.height),
        TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 8), TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 3);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB), TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG),
        TIFFSetField(t, TIFFTAG_ORIENTATION, orientation), TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, 64);
    std::vector<std::uint8_t> line(std::size_t{3} * static_cast<std::size_t>(pixels.width));
    for (int y = 0; y < pixels.height; ++y) {
        for (int x = 0; x < pixels.width; ++x)
            std::memcpy(&line[3 * static_cast<std::size_t>(x)],
                        &pixels.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(pixels.width) +
                                          static_cast<std::size_t>(x))],
                        3);
        TIFFWriteScanline(t, line.data(), static_cast<std::uint32_t>(y), 0);
    }
    TIFFClose(t);
    const auto bytes = read_file(path);
    return {bytes->view().begin(), bytes->view().end()};
}

std::vector<std::uint8_t> exif_block(int focal_35mm, int orientation, int taken_width, int taken_height) {
    // big-endian TIFF: one directory with the orientation and the way to the Exif one, which holds the size and the
    // focal length
    const auto u16 = [](std::vector<std::uint8_t>& to, unsigned v) {
        to.push_back(static_cast<std::uint8_t>(v >> 8u)), to.push_back(static_cast<std::uint8_t>(v));
    };
    const auto entry = [&](std::vector<std::uint8_t>& to, unsigned tag, unsigned kind, unsigned high, unsigned low) {
        u16(to, tag), u16(to, kind), u16(to, 0), u16(to, 1), u16(to, high), u16(to, low);
    };
    std::vector<std::uint8_t> out{'M', 'M', 0, 42, 0, 0, 0, 8};
    u16(out, 2), entry(out, 0x0112, 3, static_cast<unsigned>(orientation), 0), entry(out, 0x8769, 4, 0, 38),
        u16(out, 0), u16(out, 0);
    u16(out, 3), entry(out, 0xa002, 3, static_cast<unsigned>(taken_width), 0),
        entry(out, 0xa003, 3, static_cast<unsigned>(taken_height), 0);
    entry(out, 0xa405, 3, static_cast<unsigned>(focal_35mm), 0), u16(out, 0), u16(out, 0);
    return out;
}

// A grey picture with a red quarter at its upper left, as a telephone writes it: HEVC, turned by the container and by
// what the camera noted.
std::vector<std::uint8_t> heic_of(int width, int height, heif_orientation turned, int focal_35mm, int taken_width = 0,
                                  int taken_height = 0) {
    heif_context* context = heif_context_alloc();
    heif_encoder* encoder = nullptr;
    REQUIRE(heif_context_get_encoder_for_format(context, heif_compression_HEVC, &encoder).code == heif_error_Ok);
    heif_encoder_set_lossy_quality(encoder, 90);
    heif_image* image = nullptr;
    REQUIRE(heif_image_create(width, height, heif_colorspace_RGB, heif_chroma_interleaved_RGB, &image).code ==
            heif_error_Ok);
    REQUIRE(heif_image_add_plane(image, heif_channel_interleaved, width, height, 8).code == heif_error_Ok);
    int stride = 0;
    std::uint8_t* plane = heif_image_get_plane(image, heif_channel_interleaved, &stride);
    for (int y = 0; y < height; ++y) {
        for (int x = 0; x < width; ++x) {
            const bool red = 2 * x < width && 2 * y < height;
            std::uint8_t* c = plane + y * stride + 3 * x;
            c[0] = red ? 200 : 120, c[1] = red ? 40 : 120, c[2] = red ? 40 : 120;
        }
    }
    heif_encoding_options* options = heif_encoding_options_alloc();
    options->image_orientation = turned;
    heif_image_handle* handle = nullptr;
    REQUIRE(heif_context_encode_image(context, image, encoder, options, &handle).code == heif_error_Ok);
    const auto exif = exif_block(focal_35mm, turned, taken_width, taken_height);
    REQUIRE(heif_context_add_exif_metadata(context, handle, exif.data(), static_cast<int>(exif.size())).code ==
            heif_error_Ok);
    std::vector<std::uint8_t> out;
    heif_writer writer{1, [](heif_context*, const void* data, std::size_t size, void* to) {
                           const auto* bytes = static_cast<const std::uint8_t*>(data);
                           static_cast<std::vector<std::uint8_t>*>(to)->assign(bytes, bytes + size);
                           return heif_error{heif_error_Ok, heif_suberror_Unspecified, ""};
                       }};
    REQUIRE(heif_context_write(context, &writer, &out).code == heif_error_Ok);
    heif_image_handle_release(handle), heif_encoding_options_free(options), heif_image_release(image),
        heif_encoder_release(encoder), heif_context_free(context);
    return out;
}

// One row of print colours, the same all along.
std::vector<std::uint8_t> print_tiff_of(int bits, const std::array<double, 4>& ink, bool planes = false) {
    const Scratch scratch;
    const std::string path = scratch / "print.tif";
    TIFF* t = TIFFOpen(path.c_str(), "w");
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, 3), TIFFSetField(t, TIFFTAG_IMAGELENGTH, 1),
        TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, bits), TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 4);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_SEPARATED), TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, 1);
    TIFFSetField(t, TIFFTAG_PLANARCONFIG, planes ? PLANARCONFIG_SEPARATE : PLANARCONFIG_CONTIG);
    std::vector<std::uint8_t> line;
    for (int x = 0; x < 3; ++x) {
        for (std::size_t k = 0; k < (planes ? 1 : 4); ++k) {
            const auto v = static_cast<std::uint16_t>(std::lround(ink[k] * (bits == 8 ? 0xff : 0xffff)));
            line.push_back(static_cast<std::uint8_t>(v));
            if (bits == 16) line.push_back(static_cast<std::uint8_t>(v >> 8u));
        }
    }
    for (std::uint16_t plane = 0; plane < (planes ? 4 : 1); ++plane) TIFFWriteScanline(t, line.data(), 0, plane);
    TIFFClose(t);
    const auto bytes = read_file(path);
    return {bytes->view().begin(), bytes->view().end()};
}

// One row of greys with 16 bits, as it is in the file: first what it says of its colours.
enum class Says { Nothing, Srgb, Light };
std::vector<std::uint8_t> png16_of(const std::vector<std::uint16_t>& greys, Says says) {
    std::vector<std::uint8_t> out, row;
    png_structp png = png_create_write_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
    png_infop info = png_create_info_struct(png);
    png_set_write_fn(
        png, &out,
        [](png_structp p, png_bytep data, png_size_t size) {
            auto& to = *static_cast<std::vector<std::uint8_t>*>(png_get_io_ptr(p));
            to.insert(to.end(), data, data + size);
        },
        nullptr);
    png_set_IHDR(png, info, static_cast<png_uint_32>(greys.size()), 1, 16, PNG_COLOR_TYPE_GRAY, PNG_INTERLACE_NONE,
                 PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    if (says == Says::Srgb) png_set_sRGB(png, info, PNG_sRGB_INTENT_PERCEPTUAL);
    if (says == Says::Light) png_set_gAMA(png, info, 1.0);
    png_write_info(png, info);
    for (const std::uint16_t v : greys)
        row.push_back(static_cast<std::uint8_t>(v >> 8u)), row.push_back(static_cast<std::uint8_t>(v));
    png_write_row(png, row.data());
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    return out;
}

const std::uint8_t* pixel(const Pixels& p, int x, int y) {
    return &p.rgba[4 *
                   (static_cast<std::size_t>(y) * static_cast<std::size_t>(p.width) + static_cast<std::size_t>(x))];
}

}  // namespace

TEST_CASE("Image files: TIFF of 8, 12 and 16 bits, turned by its orientation, cut short ones are refused") {
    for (const int bits : {8, 12, 16}) {
        const Image image{"scan.tif", "image/tiff", tiff_of(bits, 6, 4, 1)};
        const auto pixels = decode_image(image);
        REQUIRE(pixels);
        CHECK(pixels->width == 6);
        CHECK(pixels->rgba[0] == 255);
        CHECK(pixels->rgba[1] == 0);
        CHECK(static_cast<int>(pixels->rgba[4]) == Approx(64).margin(1));
        for (std::size_t n = 8; n < image.bytes.size(); n += 7) {  // no crash, whatever is cut away
            Image cut = image;
            cut.bytes.resize(n);
            (void)decode_image(cut);
            (void)read_exif(cut.bytes);
        }
    }
    const Image turned{"turned.tif", "image/tiff", tiff_of(8, 6, 4, 6)};
    CHECK(read_exif(turned.bytes).orientation == 6);
    const auto photo = decode_photo(turned);
    REQUIRE(photo);
    CHECK(photo->pixels.width == 4);
    CHECK(photo->pixels.rgba[4 * 3] == 255);  // the first pixel has come to the upper right
    CHECK(photo->pixels.rgba[4 * 3 + 1] == 0);
}

TEST_CASE("Image files: PNG and TIFF of 16 bits keep them where they are asked for") {
    const std::vector<std::uint16_t> greys{0, 3, 1000, 0x4040, 0x4041, 0xfffe, 0xffff};
    for (const Says says : {Says::Nothing, Says::Srgb}) {  // what says nothing is no light but sRGB too
        const Image png{"deep.png", "image/png", png16_of(greys, says)};
        const auto fine = decode_image(png, PixelBits::Sixteen), plain = decode_image(png);
        REQUIRE(fine);
        REQUIRE(plain);
        CHECK(plain->rgba16.empty());
        CHECK(plain->rgba == fine->rgba);
        REQUIRE(fine->rgba16.size() == 4 * greys.size());
        for (std::size_t i = 0; i < greys.size(); ++i) {
            CHECK(fine->rgba16[4 * i] == greys[i]);
            CHECK(fine->rgba16[4 * i + 3] == 0xffff);
            CHECK(std::abs(257 * fine->rgba[4 * i + 2] - greys[i]) <= 128);
        }
        for (std::size_t n = 8; n < png.bytes.size(); n += 5) {
            Image cut = png;
            cut.bytes.resize(n);
            (void)decode_image(cut, PixelBits::Sixteen);
        }
    }
    const auto light = decode_image({"light.png", "image/png", png16_of({0x8000}, Says::Light)}, PixelBits::Sixteen);
    REQUIRE(light);
    CHECK(static_cast<int>(light->rgba[0]) == 188);  // half of the light
    CHECK(light->rgba16[0] == Approx(0.7354 * 65535).margin(20));

    const auto tiff = decode_photo({"scan.tif", "image/tiff", tiff_of(16, 6, 4, 6)}, PixelBits::Sixteen);
    REQUIRE(tiff);
    REQUIRE(tiff->pixels.rgba16.size() == tiff->pixels.rgba.size());
    CHECK(tiff->pixels.rgba16[4 * 3] == 0xffff);  // turned like its 8 bits
    CHECK(tiff->pixels.rgba16[4 * 3 + 1] == 0);
    CHECK(tiff->pixels.rgba16[4 * 4] == 0x4000);
    CHECK(decode_image({"scan.tif", "image/tiff", tiff_of(8, 6, 4, 1)}, PixelBits::Sixteen)->rgba16.empty());
}

TEST_CASE("Image files: TIFF in print colours of 8 and 16 bits, what is not known is said") {
    for (const int bits : {8, 16}) {
        const auto read = decode_image({"print.tif", "", print_tiff_of(bits, {0.2, 0.6, 1, 0.5})}, PixelBits::Sixteen);
        REQUIRE(read);
        CHECK(std::abs(read->rgba[4] - 102) <= 1);  // 255 * 0.8 * 0.5
        CHECK(std::abs(read->rgba[5] - 51) <= 1);
        CHECK(std::abs(read->rgba[6] - 0) <= 1);
        CHECK(read->rgba16.empty() == (bits == 8));
    }
    const auto unknown = decode_image({"planes.tif", "", print_tiff_of(16, {0.2, 0.6, 1, 0.5}, true)});
    REQUIRE_FALSE(unknown);
    CHECK(unknown.error().message.find("planes.tif") != std::string::npos);
    CHECK(unknown.error().message.find("save it as plain RGB") != std::string::npos);
}

TEST_CASE("Image files: names tell pictures, a head of a file without its body is named") {
    const auto text =
        decode_image({"words.heic", "image/heic", {0, 0, 0, 24, 'f', 't', 'y', 'p', 'h', 'e', 'i', 'c', 0, 0, 0, 0}});
    REQUIRE_FALSE(text);
    CHECK(text.error().message.find("words.heic") != std::string::npos);
    CHECK(is_picture_name("a/b/IMG_1.HEIC"));
    CHECK_FALSE(is_picture_name("scan.ply"));
}

TEST_CASE("Image files: HEIC as telephones write it, turned once, with its lens, cut short it is refused") {
    const Image image{"portrait.heic", "image/heic", heic_of(96, 64, heif_orientation_rotate_90_cw, 52)};
    const auto photo = decode_photo(image);
    REQUIRE(photo);
    // the container and the camera's note both say "a quarter turn": it is turned once
    CHECK(photo->pixels.width == 64);
    CHECK(photo->pixels.height == 96);
    CHECK(photo->focal_35mm == 52);
    const std::uint8_t* right = pixel(photo->pixels, 56, 8);  // the red quarter has come to the upper right
    CHECK(right[0] > 160);
    CHECK(right[1] < 90);
    const std::uint8_t* left = pixel(photo->pixels, 8, 8);
    CHECK(std::abs(left[0] - 120) < 12);
    CHECK(std::abs(left[1] - 120) < 12);
    const Image upright{"upright.heic", "image/heic", heic_of(96, 64, heif_orientation_normal, 28)};
    const auto plain = decode_photo(upright);
    REQUIRE(plain);
    CHECK(plain->pixels.width == 96);
    CHECK(plain->focal_35mm == 28);
    CHECK(pixel(plain->pixels, 8, 8)[0] > 160);
    int refused = 0;
    for (std::size_t n = 12; n < image.bytes.size(); n += std::max<std::size_t>(1, image.bytes.size() / 60)) {
        Image cut = image;
        cut.bytes.resize(n);
        (void)read_exif(cut.bytes);
        if (const auto read = decode_image(cut); !read) {
            ++refused;
            CHECK(read.error().message.find("portrait.heic") != std::string::npos);
        }
    }
    CHECK(refused > 40);
    for (std::size_t n = 40; n < image.bytes.size();
         n += 11) {  // one byte wrong: an answer or an error, never a crash
        Image wrong = image;
        wrong.bytes[n] ^= 0x5au;
        (void)decode_image(wrong);
        (void)read_exif(wrong.bytes);
    }
}

TEST_CASE("Image files: a picture cut to another shape has no lens any more, a smaller one keeps it") {
    const auto read = [](int taken_width, int taken_height) {
        const auto photo = decode_photo(
            {"a.heic", "image/heic", heic_of(96, 64, heif_orientation_rotate_90_cw, 85, taken_width, taken_height)});
        REQUIRE(photo);
        return *photo;
    };
    CHECK_FALSE(read(4200, 2800).cut);
    CHECK(read(4200, 2800).focal_35mm == 85);
    CHECK_FALSE(read(2800, 4200).cut);  // turned by a program that left the note as it was
    CHECK(read(4000, 3000).cut);
    CHECK(read(4000, 3000).focal_35mm == 0);
}

TEST_CASE("Image files: forty megapixels are read and turned, and shrink to what is looked for") {
    Pixels large;
    large.width = 7728, large.height = 5152;
    large.rgba.assign(std::size_t{4} * 7728 * 5152, 128);
    for (std::size_t y = 0; y < 2576; ++y)
        std::memset(&large.rgba[4 * y * 7728], 250, std::size_t{4} * 3864);  // the upper left quarter is bright
    const Image image{"large.tif", "image/tiff", tiff_of(large, 6)};
    const auto photo = decode_photo(image);
    REQUIRE(photo);
    CHECK(photo->pixels.width == 5152);
    CHECK(photo->pixels.height == 7728);
    CHECK(pixel(photo->pixels, 5000, 100)[0] == 250);
    CHECK(pixel(photo->pixels, 100, 100)[0] == 128);
    const EdgePicture picture = edge_picture(photo->pixels, 20);  // a head of 5000 pixels
    CHECK(picture.width == 644);
    CHECK(picture.colour(Vec2(5000, 100)).x() == Approx(250 / 255.0).margin(0.01));
    CHECK(picture.colour(Vec2(100, 7000)).x() == Approx(128 / 255.0).margin(0.01));
}
