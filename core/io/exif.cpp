#include "core/io/exif.h"

#include <cstddef>
#include <cstring>

#include "core/io/image_formats.h"

namespace veld {
namespace {

constexpr unsigned kOrientation = 0x0112, kExifDirectory = 0x8769, kFocal35 = 0xa405, kTakenWidth = 0xa002,
                   kTakenHeight = 0xa003;

struct Tiff {
    const std::uint8_t* data;
    std::size_t size;
    bool little;

    unsigned u16(std::size_t at) const {
        if (at + 2 > size) return 0;
        return little ? data[at] | data[at + 1] << 8u : static_cast<unsigned>(data[at] << 8u | data[at + 1]);
    }
    std::size_t u32(std::size_t at) const {
        const std::size_t a = u16(at), b = u16(at + 2);
        return little ? a | b << 16u : a << 16u | b;
    }
    void directory(std::size_t at, Exif& out, bool follow) const {
        if (at + 2 > size) return;
        const std::size_t entries = u16(at);
        for (std::size_t i = 0; i < entries && at + 2 + 12 * (i + 1) <= size; ++i) {
            const std::size_t entry = at + 2 + 12 * i;
            const unsigned tag = u16(entry), kind = u16(entry + 2);
            const unsigned value = kind == 3 ? u16(entry + 8) : static_cast<unsigned>(u32(entry + 8));
            if (tag == kOrientation && value >= 1 && value <= 8) out.orientation = static_cast<int>(value);
            if (tag == kFocal35 && value < 5000) out.focal_35mm = value;
            if (tag == kTakenWidth && value < 100000) out.width = static_cast<int>(value);
            if (tag == kTakenHeight && value < 100000) out.height = static_cast<int>(value);
            if (tag == kExifDirectory && follow) directory(u32(entry + 8), out, false);
        }
    }
};

Exif from_block(const std::uint8_t* data, std::size_t size) {
    Exif out;
    if (size < 8) return out;
    const Tiff tiff{data, size, data[0] == 'I'};
    tiff.directory(tiff.u32(4), out, true);
    return out;
}

Exif from_png(const std::vector<std::uint8_t>& png) {
    std::size_t at = 8;
    while (at + 12 <= png.size()) {
        const std::size_t length = std::size_t{png[at]} << 24u | std::size_t{png[at + 1]} << 16u |
                                   std::size_t{png[at + 2]} << 8u | png[at + 3];
        if (length > png.size() - at - 12) return {};
        if (std::memcmp(&png[at + 4], "eXIf", 4) == 0) return from_block(&png[at + 8], length);
        at += 12 + length;
    }
    return {};
}

}  // namespace

Exif read_exif(const std::vector<std::uint8_t>& image) {
    if (is_tiff(image)) return from_block(image.data(), image.size());
    if (is_heic(image)) {
        const auto block = heic_exif(image);
        Exif out = from_block(block.data(), block.size());
        out.orientation = 1;
        return out;
    }
    if (image.size() > 8 && image[0] == 0x89 && image[1] == 'P') return from_png(image);
    if (image.size() < 4 || image[0] != 0xff || image[1] != 0xd8) return {};
    std::size_t at = 2;
    while (at + 4 <= image.size() && image[at] == 0xff && image[at + 1] != 0xda) {
        const std::size_t length = std::size_t{image[at + 2]} << 8u | image[at + 3];
        const std::size_t from = at + 4, end = at + 2 + length;
        if (length < 2 || end > image.size()) return {};
        if (image[at + 1] == 0xe1 && length > 16 && std::memcmp(&image[from], "Exif\0\0", 6) == 0)
            return from_block(&image[from + 6], end - from - 6);
        at = end;
    }
    return {};
}

}  // namespace veld
