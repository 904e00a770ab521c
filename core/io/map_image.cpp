#include "core/io/map_image.h"

#include <png.h>
#include <tiffio.h>

#include <ImfChannelList.h>
#include <ImfCompression.h>
#include <ImfFrameBuffer.h>
#include <ImfHeader.h>
#include <ImfIO.h>
#include <ImfOutputFile.h>
#include <half.h>

#include <cmath>
#include <csetjmp>
#include <cstring>

namespace veld {
namespace {

constexpr std::array<std::pair<MapFormat, const char*>, 7> kFormats = {{{MapFormat::Png8, "png8"},
                                                                        {MapFormat::Png16, "png16"},
                                                                        {MapFormat::Tiff8, "tiff8"},
                                                                        {MapFormat::Tiff16, "tiff16"},
                                                                        {MapFormat::Tiff32, "tiff32"},
                                                                        {MapFormat::Exr16, "exr16"},
                                                                        {MapFormat::Exr32, "exr32"}}};

Error no_room(const char* what) {
    return {ErrorCode::Limit, std::string("There is not enough memory to write a ") + what +
                                  " of that size; bake it smaller, or close other programs."};
}

std::uint8_t to_byte(std::uint16_t v) { return static_cast<std::uint8_t>((v * 255u + 32895u) >> 16u); }

// One row as the file has it, 8 or 16 bits a sample; big: the higher byte first.
void row_bytes(const MapImage& map, int y, int bits, bool big, std::vector<std::uint8_t>& out) {
    const std::size_t n = static_cast<std::size_t>(map.width) * static_cast<std::size_t>(map.channels);
    const std::uint16_t* from = map.unit.data() + static_cast<std::size_t>(y) * n;
    out.resize(n * static_cast<std::size_t>(bits) / 8);
    for (std::size_t i = 0; i < n; ++i) {
        if (bits == 8) {
            out[i] = to_byte(from[i]);
            continue;
        }
        out[2 * i] = static_cast<std::uint8_t>(big ? from[i] >> 8u : from[i] & 255u);
        out[2 * i + 1] = static_cast<std::uint8_t>(big ? from[i] & 255u : from[i] >> 8u);
    }
}

// What has a destructor lives in the caller: libpng leaves by longjmp.
bool write_png(const MapImage& map, int bits, std::string& out, std::vector<std::uint8_t>& row) {
    png_structp png = png_create_write_struct(
        PNG_LIBPNG_VER_STRING, nullptr, [](png_structp p, png_const_charp) { std::longjmp(png_jmpbuf(p), 1); },
        [](png_structp, png_const_charp) {});
    png_infop info = png ? png_create_info_struct(png) : nullptr;
    if (!info || setjmp(png_jmpbuf(png))) {
        png_destroy_write_struct(&png, &info);
        return false;
    }
    png_set_write_fn(
        png, &out,
        [](png_structp p, png_bytep data, png_size_t size) {
            static_cast<std::string*>(png_get_io_ptr(p))->append(reinterpret_cast<const char*>(data), size);
        },
        nullptr);
    png_set_IHDR(png, info, static_cast<png_uint_32>(map.width), static_cast<png_uint_32>(map.height), bits,
                 map.channels == 1 ? PNG_COLOR_TYPE_GRAY : PNG_COLOR_TYPE_RGB, PNG_INTERLACE_NONE,
                 PNG_COMPRESSION_TYPE_DEFAULT, PNG_FILTER_TYPE_DEFAULT);
    // of data nothing is said: a gamma would have readers change it
    if (map.srgb) png_set_sRGB_gAMA_and_cHRM(png, info, PNG_sRGB_INTENT_PERCEPTUAL);
    png_set_compression_level(png, 4);
    png_write_info(png, info);
    for (int y = 0; y < map.height; ++y) {
        row_bytes(map, y, bits, true, row);
        png_write_row(png, row.data());
    }
    png_write_end(png, nullptr);
    png_destroy_write_struct(&png, &info);
    return true;
}

struct Written {
    std::string* bytes;
    std::size_t at = 0;
};

tmsize_t put_some(thandle_t h, void* from, tmsize_t n) {
    auto& w = *static_cast<Written*>(h);
    const auto size = static_cast<std::size_t>(n);
    if (w.at + size > w.bytes->size()) w.bytes->resize(w.at + size);
    std::memcpy(w.bytes->data() + w.at, from, size);
    w.at += size;
    return n;
}
tmsize_t get_some(thandle_t h, void* to, tmsize_t n) {
    auto& w = *static_cast<Written*>(h);
    const std::size_t size =
        w.at < w.bytes->size() ? std::min(static_cast<std::size_t>(n), w.bytes->size() - w.at) : 0;
    std::memcpy(to, w.bytes->data() + w.at, size);
    w.at += size;
    return static_cast<tmsize_t>(size);
}
toff_t move_to(thandle_t h, toff_t off, int whence) {
    auto& w = *static_cast<Written*>(h);
    toff_t from = 0;
    if (whence == SEEK_CUR) from = w.at;
    if (whence == SEEK_END) from = w.bytes->size();
    w.at = static_cast<std::size_t>(from + off);
    return w.at;
}

int tiff_bits(MapFormat format) {
    if (format == MapFormat::Tiff32) return 32;
    return format == MapFormat::Tiff16 ? 16 : 8;
}

bool write_tiff(const MapImage& map, int bits, std::string& out) {
    Written written{&out};
    TIFF* tiff = TIFFClientOpen(
        "memory", "wl", &written, get_some, put_some, move_to, [](thandle_t) { return 0; },
        [](thandle_t h) { return static_cast<toff_t>(static_cast<Written*>(h)->bytes->size()); }, nullptr, nullptr);
    if (!tiff) return false;
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, static_cast<std::uint32_t>(map.width));
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, static_cast<std::uint32_t>(map.height));
    TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, map.channels);
    TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, bits);
    TIFFSetField(tiff, TIFFTAG_SAMPLEFORMAT, bits == 32 ? SAMPLEFORMAT_IEEEFP : SAMPLEFORMAT_UINT);
    TIFFSetField(tiff, TIFFTAG_ORIENTATION, ORIENTATION_TOPLEFT);
    TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, map.channels == 1 ? PHOTOMETRIC_MINISBLACK : PHOTOMETRIC_RGB);
    TIFFSetField(tiff, TIFFTAG_COMPRESSION, COMPRESSION_ADOBE_DEFLATE);
    TIFFSetField(tiff, TIFFTAG_PREDICTOR, bits == 32 ? PREDICTOR_FLOATINGPOINT : PREDICTOR_HORIZONTAL);
    TIFFSetField(tiff, TIFFTAG_ROWSPERSTRIP, TIFFDefaultStripSize(tiff, 0));
    std::vector<std::uint8_t> row;
    const std::size_t n = static_cast<std::size_t>(map.width) * static_cast<std::size_t>(map.channels);
    bool well = true;
    for (int y = 0; y < map.height && well; ++y) {
        if (bits == 32) {
            row.resize(4 * n);
            for (std::size_t i = 0; i < n; ++i) {
                const std::size_t k = static_cast<std::size_t>(y) * n + i;
                const float value = map.real.empty() ? static_cast<float>(map.unit[k]) / 65535 : map.real[k];
                std::memcpy(&row[4 * i], &value, 4);
            }
        } else {
            row_bytes(map, y, bits, false, row);
        }
        well = TIFFWriteScanline(tiff, row.data(), static_cast<std::uint32_t>(y), 0) >= 0;
    }
    TIFFClose(tiff);
    return well;
}

class StringStream : public OPENEXR_IMF_NAMESPACE::OStream {  // the library asks for inheritance
 public:
    explicit StringStream(std::string& bytes) : OStream("memory"), bytes_(bytes) {}
    void write(const char from[], int n) override {
        const auto size = static_cast<std::size_t>(n);
        if (at_ + size > bytes_.size()) bytes_.resize(at_ + size);
        std::memcpy(bytes_.data() + at_, from, size);
        at_ += size;
    }
    std::uint64_t tellp() override { return at_; }
    void seekp(std::uint64_t to) override { at_ = to; }

 private:
    std::string& bytes_;
    std::size_t at_ = 0;
};

bool write_exr(const MapImage& map, bool whole, std::string& out) {
    namespace Exr = OPENEXR_IMF_NAMESPACE;
    try {
        Exr::Header header(map.width, map.height);
        header.compression() = Exr::ZIP_COMPRESSION;
        const Exr::PixelType type = whole ? Exr::FLOAT : Exr::HALF;
        const std::vector<const char*> names =
            map.channels == 1 ? std::vector<const char*>{"Y"} : std::vector<const char*>{"R", "G", "B"};
        for (const char* name : names) header.channels().insert(name, Exr::Channel(type));
        StringStream stream(out);
        Exr::OutputFile file(stream, header);
        const std::size_t n = static_cast<std::size_t>(map.width) * static_cast<std::size_t>(map.channels);
        std::vector<float> row(n);
        std::vector<half> half_row(n);
        const std::size_t bytes = whole ? 4 : 2;
        char* base = whole ? reinterpret_cast<char*>(row.data()) : reinterpret_cast<char*>(half_row.data());
        for (int y = 0; y < map.height; ++y) {
            for (std::size_t i = 0; i < n; ++i) {
                const std::size_t k = static_cast<std::size_t>(y) * n + i;
                row[i] = map.real.empty() ? static_cast<float>(map.unit[k]) / 65535 : map.real[k];
                if (map.srgb) row[i] = static_cast<float>(srgb_to_linear(row[i]));
                half_row[i] = half(row[i]);
            }
            Exr::FrameBuffer frame;  // of stride 0 over y: each row lies at the same place
            for (std::size_t c = 0; c < names.size(); ++c)
                frame.insert(names[c], Exr::Slice(type, base + c * bytes, bytes * names.size(), 0));
            file.setFrameBuffer(frame);
            file.writePixels(1);
        }
        return true;
    } catch (const std::exception&) {
        return false;
    }
}

}  // namespace

double srgb_to_linear(double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); }
double linear_to_srgb(double v) { return v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055; }

const char* map_format_name(MapFormat format) {
    for (const auto& [f, name] : kFormats) {
        if (f == format) return name;
    }
    return "";
}

std::optional<MapFormat> map_format_from_name(const std::string& name) {
    for (const auto& [f, known] : kFormats) {
        if (name == known) return f;
    }
    return {};
}

const char* map_format_ending(MapFormat format) {
    if (format == MapFormat::Png8 || format == MapFormat::Png16) return ".png";
    return format == MapFormat::Exr16 || format == MapFormat::Exr32 ? ".exr" : ".tif";
}

bool holds_reals(MapFormat format) {
    return format == MapFormat::Tiff32 || format == MapFormat::Exr16 || format == MapFormat::Exr32;
}

Result<std::string> encode_map(const MapImage& map, MapFormat format) {
    const std::size_t samples = map.texels() * static_cast<std::size_t>(map.channels);
    if (map.empty() || (map.channels != 1 && map.channels != 3) ||
        std::max(map.unit.size(), map.real.size()) != samples)
        return Error{ErrorCode::BadInput, "There is no map to write."};
    if (map.unit.empty() && !holds_reals(format))
        return Error{ErrorCode::BadInput, std::string("Heights in millimetres do not fit into ") +
                                              map_format_name(format) + "; write them as tiff32, exr16 or exr32."};
    std::string out;
    try {
        std::vector<std::uint8_t> row;
        switch (format) {
            case MapFormat::Png8:
            case MapFormat::Png16:
                if (!write_png(map, format == MapFormat::Png8 ? 8 : 16, out, row)) return no_room("PNG");
                break;
            case MapFormat::Tiff8:
            case MapFormat::Tiff16:
            case MapFormat::Tiff32:
                if (!write_tiff(map, tiff_bits(format), out)) return no_room("TIFF");
                break;
            case MapFormat::Exr16:
            case MapFormat::Exr32:
                if (!write_exr(map, format == MapFormat::Exr32, out)) return no_room("EXR");
        }
    } catch (const std::bad_alloc&) {
        return no_room("picture");
    }
    return out;
}

Pixels map_pixels(const MapImage& map, double grey, double span) {
    Pixels out{map.width, map.height, std::vector<std::uint8_t>(4 * map.texels(), 255)};
    const auto channels = static_cast<std::size_t>(map.channels);
    for (std::size_t i = 0; i < map.texels(); ++i) {
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t at = i * channels + (channels == 1 ? 0 : k);
            if (!map.unit.empty())
                out.rgba[4 * i + k] = to_byte(map.unit[at]);
            else
                out.rgba[4 * i + k] = static_cast<std::uint8_t>(
                    std::lround(255 * std::clamp(0.5 + 0.5 * (map.real[at] - grey) / span, 0.0, 1.0)));
        }
    }
    return out;
}

}  // namespace veld
