#include <libheif/heif.h>

#include <cstring>
#include <memory>

#include "core/io/image_formats.h"

namespace veld {
namespace {

struct Freed {
    void operator()(heif_context* c) const { heif_context_free(c); }
    void operator()(heif_image_handle* h) const { heif_image_handle_release(h); }
    void operator()(heif_image* i) const { heif_image_release(i); }
};

struct Opened {
    std::unique_ptr<heif_context, Freed> context{heif_context_alloc()};
    std::unique_ptr<heif_image_handle, Freed> handle;
};

Opened open(const std::vector<std::uint8_t>& bytes) {
    Opened out;
    if (!out.context ||
        heif_context_read_from_memory_without_copy(out.context.get(), bytes.data(), bytes.size(), nullptr).code !=
            heif_error_Ok)
        return out;
    heif_image_handle* handle = nullptr;
    if (heif_context_get_primary_image_handle(out.context.get(), &handle).code == heif_error_Ok)
        out.handle.reset(handle);
    return out;
}

}  // namespace

bool is_heic(const std::vector<std::uint8_t>& b) {
    if (b.size() < 12 || std::memcmp(&b[4], "ftyp", 4) != 0) return false;
    for (const char* brand : {"heic", "heix", "hevc", "heim", "heis", "mif1", "msf1"}) {
        if (std::memcmp(&b[8], brand, 4) == 0) return true;
    }
    return false;
}

Result<Pixels> decode_heic(const Image& image) {
    const Opened file = open(image.bytes);
    if (!file.handle) return unreadable(image, "it is no complete HEIC");
    const int width = heif_image_handle_get_width(file.handle.get()),
              height = heif_image_handle_get_height(file.handle.get());
    if (width <= 0 || height <= 0 || width > static_cast<int>(kMostPixels) || height > static_cast<int>(kMostPixels))
        return unreadable(image, "it is too large");
    heif_image* raw = nullptr;
    const heif_error error =
        heif_decode_image(file.handle.get(), &raw, heif_colorspace_RGB, heif_chroma_interleaved_RGBA, nullptr);
    const std::unique_ptr<heif_image, Freed> decoded(raw);
    if (error.code != heif_error_Ok)
        return unreadable(image,
                          error.message && *error.message ? std::string(error.message) : "it is damaged or cut short");
    int stride = 0;
    const std::uint8_t* plane = heif_image_get_plane_readonly(decoded.get(), heif_channel_interleaved, &stride);
    Pixels out;
    out.width = heif_image_get_width(decoded.get(), heif_channel_interleaved),
    out.height = heif_image_get_height(decoded.get(), heif_channel_interleaved);
    if (!plane || out.width <= 0 || out.height <= 0) return unreadable(image, "it is damaged or cut short");
    out.rgba.resize(std::size_t{4} * static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height));
    for (int y = 0; y < out.height; ++y)
        std::memcpy(&out.rgba[4 * static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width)],
                    plane + static_cast<std::ptrdiff_t>(y) * stride, 4 * static_cast<std::size_t>(out.width));
    return out;
}

std::vector<std::uint8_t> heic_exif(const std::vector<std::uint8_t>& bytes) {
    const Opened file = open(bytes);
    heif_item_id id = 0;
    if (!file.handle || heif_image_handle_get_list_of_metadata_block_IDs(file.handle.get(), "Exif", &id, 1) != 1)
        return {};
    std::vector<std::uint8_t> out(heif_image_handle_get_metadata_size(file.handle.get(), id));
    if (out.size() < 12 || heif_image_handle_get_metadata(file.handle.get(), id, out.data()).code != heif_error_Ok)
        return {};
    // four bytes say where the TIFF block begins after them
    const std::size_t skip =
        4 + (std::size_t{out[0]} << 24u | std::size_t{out[1]} << 16u | std::size_t{out[2]} << 8u | out[3]);
    if (skip >= out.size()) return {};
    return {out.begin() + static_cast<std::ptrdiff_t>(skip), out.end()};
}

}  // namespace veld
