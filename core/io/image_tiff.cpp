#include <tiffio.h>

#include <cstring>

#include "core/io/colour_profile.h"
#include "core/io/image_formats.h"

namespace veld {
namespace {

struct Memory {
    const std::uint8_t* data;
    toff_t size, at = 0;
};

tmsize_t read_some(thandle_t h, void* to, tmsize_t n) {
    auto& m = *static_cast<Memory*>(h);
    const auto left = static_cast<tmsize_t>(m.at < m.size ? m.size - m.at : 0);
    const tmsize_t take = std::min(n, left);
    std::memcpy(to, m.data + m.at, static_cast<std::size_t>(take));
    m.at += static_cast<toff_t>(take);
    return take;
}
toff_t seek_to(thandle_t h, toff_t off, int whence) {
    auto& m = *static_cast<Memory*>(h);
    m.at = whence == SEEK_SET ? off : whence == SEEK_CUR ? m.at + off : m.size + off;
    return m.at;
}
int silent(TIFF*, void*, const char*, const char*, va_list) { return 1; }

struct Open {
    Memory memory;
    TIFF* tiff = nullptr;
    explicit Open(const std::vector<std::uint8_t>& bytes) : memory{bytes.data(), bytes.size()} {
        TIFFOpenOptions* options = TIFFOpenOptionsAlloc();
        TIFFOpenOptionsSetErrorHandlerExtR(options, silent, nullptr);
        TIFFOpenOptionsSetWarningHandlerExtR(options, silent, nullptr);
        tiff = TIFFClientOpenExt(
            "memory", "rm", &memory, read_some, [](thandle_t, void*, tmsize_t) -> tmsize_t { return 0; }, seek_to,
            [](thandle_t) { return 0; }, [](thandle_t h) { return static_cast<Memory*>(h)->size; }, nullptr, nullptr,
            options);
        TIFFOpenOptionsFree(options);
    }
    ~Open() {
        if (tiff) TIFFClose(tiff);
    }
    Open(const Open&) = delete;
    Open& operator=(const Open&) = delete;
};

// Twelve bits a sample, which libtiff hands out as they are packed: the first bit is the highest.
bool unpack_twelve(TIFF* tiff, int channels, Pixels& out) {
    std::vector<std::uint8_t> line(static_cast<std::size_t>(TIFFScanlineSize(tiff)));
    const auto needed = (static_cast<std::size_t>(out.width) * static_cast<std::size_t>(channels) * 12 + 7) / 8;
    if (line.size() < needed) return false;
    for (int y = 0; y < out.height; ++y) {
        if (TIFFReadScanline(tiff, line.data(), static_cast<std::uint32_t>(y), 0) < 0) return false;
        for (int x = 0; x < out.width; ++x) {
            std::uint8_t value[4] = {0, 0, 0, 255};
            for (int c = 0; c < channels; ++c) {
                const std::size_t bit = 12 * (static_cast<std::size_t>(x) * static_cast<std::size_t>(channels) +
                                              static_cast<std::size_t>(c)),
                                  byte = bit / 8;
                value[c] = bit % 8 == 0 ? line[byte]
                                        : static_cast<std::uint8_t>(
                                              line[byte] << 4u | line[byte + 1] >> 4u);  // the upper eight of twelve
            }
            if (channels < 3) value[1] = value[2] = value[0];
            std::memcpy(&out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width) +
                                       static_cast<std::size_t>(x))],
                        value, 3);
        }
    }
    return true;
}

struct Layout {
    std::uint32_t width = 0, height = 0;
    std::uint16_t bits = 1, channels = 1, planar = PLANARCONFIG_CONTIG, kind = PHOTOMETRIC_MINISBLACK,
                  numbers = SAMPLEFORMAT_UINT;
    bool tiled = false;

    explicit Layout(TIFF* tiff) : tiled(TIFFIsTiled(tiff) != 0) {
        TIFFGetField(tiff, TIFFTAG_IMAGEWIDTH, &width), TIFFGetField(tiff, TIFFTAG_IMAGELENGTH, &height);
        TIFFGetFieldDefaulted(tiff, TIFFTAG_BITSPERSAMPLE, &bits),
            TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLESPERPIXEL, &channels);
        TIFFGetFieldDefaulted(tiff, TIFFTAG_PLANARCONFIG, &planar), TIFFGetField(tiff, TIFFTAG_PHOTOMETRIC, &kind);
        TIFFGetFieldDefaulted(tiff, TIFFTAG_SAMPLEFORMAT, &numbers);
    }
    bool print() const { return kind == PHOTOMETRIC_SEPARATED; }
    // Rows of 16 bits a sample, which libtiff's own way to RGB would make 8, or (print colours) does not know.
    bool sixteen() const {
        const int needed = kind == PHOTOMETRIC_RGB ? 3 : kind == PHOTOMETRIC_MINISBLACK ? 1 : print() ? 4 : 0;
        return bits == 16 && planar == PLANARCONFIG_CONTIG && !tiled && numbers == SAMPLEFORMAT_UINT && needed > 0 &&
               channels >= needed;
    }
};

std::uint16_t light_of(std::uint32_t ink, std::uint32_t black) {
    return static_cast<std::uint16_t>((0xffff - ink) * (0xffff - black) / 0xffff);
}

// false: cut short.
bool read_sixteen(TIFF* tiff, const Layout& layout, Pixels& out) {
    const std::size_t width = layout.width, channels = layout.channels;
    std::vector<std::uint16_t> line(static_cast<std::size_t>(TIFFScanlineSize(tiff)) / 2 + 1);
    if (line.size() < width * channels) return false;
    out.rgba16.assign(4 * width * layout.height, 0xffff);
    for (std::uint32_t y = 0; y < layout.height; ++y) {
        if (TIFFReadScanline(tiff, line.data(), y, 0) < 0) return false;
        std::uint16_t* to = &out.rgba16[4 * width * y];
        for (std::size_t x = 0; x < width; ++x) {
            const std::uint16_t* from = &line[channels * x];
            for (std::size_t k = 0; k < 3; ++k)
                to[4 * x + k] = layout.print() ? light_of(from[k], from[3]) : from[channels < 3 ? 0 : k];
        }
    }
    for (std::size_t i = 0; i < out.rgba.size(); ++i) out.rgba[i] = eight_of(out.rgba16[i]);
    return true;
}

// By libtiff's own way to RGB, rows from the top as they are stored: turning is the caller's. false: cut short.
bool read_eight(TIFF* tiff, const Layout& layout, Pixels& out) {
    std::vector<std::uint32_t> raster(std::size_t{layout.width} * layout.height);
    std::uint16_t stored = ORIENTATION_TOPLEFT;
    TIFFGetFieldDefaulted(tiff, TIFFTAG_ORIENTATION, &stored);
    constexpr int kStopOnError = 1;
    if (!TIFFReadRGBAImageOriented(tiff, layout.width, layout.height, raster.data(), stored, kStopOnError))
        return false;
    for (std::size_t i = 0; i < raster.size(); ++i) {
        out.rgba[4 * i] = static_cast<std::uint8_t>(TIFFGetR(raster[i]));
        out.rgba[4 * i + 1] = static_cast<std::uint8_t>(TIFFGetG(raster[i]));
        out.rgba[4 * i + 2] = static_cast<std::uint8_t>(TIFFGetB(raster[i]));
    }
    return true;
}

std::vector<std::uint8_t> profile_of(TIFF* tiff) {
    std::uint32_t size = 0;
    const void* profile = nullptr;
    if (!TIFFGetField(tiff, TIFFTAG_ICCPROFILE, &size, &profile) || !profile) return {};
    const auto* bytes = static_cast<const std::uint8_t*>(profile);
    return {bytes, bytes + size};
}

}  // namespace

bool is_tiff(const std::vector<std::uint8_t>& b) {
    return b.size() > 8 && ((b[0] == 'I' && b[1] == 'I' && (b[2] == 42 || b[2] == 43) && b[3] == 0) ||
                            (b[0] == 'M' && b[1] == 'M' && b[2] == 0 && (b[3] == 42 || b[3] == 43)));
}

Result<Pixels> decode_tiff(const Image& image, PixelBits wanted) {
    const Open file(image.bytes);
    if (!file.tiff) return unreadable(image, "it is no complete TIFF");
    const Layout layout(file.tiff);
    if (layout.width == 0 || layout.height == 0) return unreadable(image, "it is damaged: it has no size");
    if (layout.width > kMostPixels || layout.height > kMostPixels) return unreadable(image, "it is too large");
    Pixels out;
    out.width = static_cast<int>(layout.width), out.height = static_cast<int>(layout.height);
    out.rgba.assign(std::size_t{4} * layout.width * layout.height, 255);
    bool whole = false;
    if (layout.bits == 12) {
        if (layout.planar != PLANARCONFIG_CONTIG || layout.channels > 4 || layout.channels == 0 || layout.tiled ||
            (layout.kind != PHOTOMETRIC_RGB && layout.kind != PHOTOMETRIC_MINISBLACK))
            return unreadable(image, "it has 12 bits a sample in an unusual layout; save it with 8 or 16");
        whole = unpack_twelve(file.tiff, layout.channels, out);
    } else if (layout.sixteen()) {
        whole = read_sixteen(file.tiff, layout, out);
    } else {
        char why[1024] = "";
        if (!TIFFRGBAImageOK(file.tiff, why) || (layout.print() && layout.bits != 8))
            return unreadable(image, "this kind of TIFF (" + std::to_string(layout.bits) +
                                         " bits a sample) is not known; save it as plain RGB with 8 or 16");
        whole = read_eight(file.tiff, layout, out);
    }
    if (!whole) return unreadable(image, "it is damaged or cut short");
    to_srgb(out, profile_of(file.tiff));
    if (wanted == PixelBits::Eight) out.rgba16 = {};
    return out;
}

}  // namespace veld
