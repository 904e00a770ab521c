#include "core/io/exif.h"

#include <cstddef>
#include <cstring>

namespace veld {
namespace {

constexpr unsigned kOrientation = 0x0112, kExifDirectory = 0x8769, kFocal35 = 0xa405;

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
            if (tag == kExifDirectory && follow) directory(u32(entry + 8), out, false);
        }
    }
};

}  // namespace

Exif read_exif(const std::vector<std::uint8_t>& jpeg) {
    Exif out;
    if (jpeg.size() < 4 || jpeg[0] != 0xff || jpeg[1] != 0xd8) return out;
    std::size_t at = 2;
    while (at + 4 <= jpeg.size() && jpeg[at] == 0xff && jpeg[at + 1] != 0xda) {
        const std::size_t length = std::size_t{jpeg[at + 2]} << 8u | jpeg[at + 3];
        const std::size_t from = at + 4, end = at + 2 + length;
        if (length < 2 || end > jpeg.size()) return out;
        if (jpeg[at + 1] == 0xe1 && length > 16 && std::memcmp(&jpeg[from], "Exif\0\0", 6) == 0) {
            const Tiff tiff{&jpeg[from + 6], end - from - 6, jpeg[from + 6] == 'I'};
            tiff.directory(tiff.u32(4), out, true);
        }
        at = end;
    }
    return out;
}

}  // namespace veld
