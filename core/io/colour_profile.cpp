#include "core/io/colour_profile.h"

#include <lcms2.h>
#include <png.h>
#include <tbb/parallel_for.h>

#include <csetjmp>
#include <cstring>
#include <memory>

namespace veld {
namespace {

struct CloseProfile {
    void operator()(void* p) const { cmsCloseProfile(p); }
};
using Profile = std::unique_ptr<void, CloseProfile>;

struct Bytes {
    const std::vector<std::uint8_t>& all;
    std::size_t at = 0;
};

// What has a destructor lives in the caller: libpng leaves by longjmp.
bool read_profile(Bytes& bytes, std::vector<std::uint8_t>& out) {
    png_structp png = png_create_read_struct(
        PNG_LIBPNG_VER_STRING, nullptr, [](png_structp p, png_const_charp) { std::longjmp(png_jmpbuf(p), 1); },
        [](png_structp, png_const_charp) {});
    png_infop info = png ? png_create_info_struct(png) : nullptr;
    if (!info || setjmp(png_jmpbuf(png))) {
        png_destroy_read_struct(&png, &info, nullptr);
        return false;
    }
    png_set_read_fn(png, &bytes, [](png_structp p, png_bytep to, png_size_t size) {
        auto& from = *static_cast<Bytes*>(png_get_io_ptr(p));
        if (from.at + size > from.all.size()) png_error(p, "short");
        std::memcpy(to, from.all.data() + from.at, size);
        from.at += size;
    });
    png_read_info(png, info);
    png_charp name = nullptr;
    int method = 0;
    png_bytep data = nullptr;
    png_uint_32 size = 0;
    if (png_get_iCCP(png, info, &name, &method, &data, &size)) out.assign(data, data + size);
    png_destroy_read_struct(&png, &info, nullptr);
    return true;
}

}  // namespace

std::vector<std::uint8_t> png_profile(const std::vector<std::uint8_t>& bytes) {
    std::vector<std::uint8_t> out;
    Bytes from{bytes};
    if (!read_profile(from, out)) out.clear();
    return out;
}

void to_srgb(Pixels& pixels, const std::vector<std::uint8_t>& profile) {
    if (profile.empty() || pixels.width == 0) return;
    const cmsContext context = cmsCreateContext(nullptr, nullptr);
    const std::unique_ptr<std::remove_pointer_t<cmsContext>, void (*)(cmsContext)> held(context, cmsDeleteContext);
    const Profile from(
        cmsOpenProfileFromMemTHR(context, profile.data(), static_cast<cmsUInt32Number>(profile.size())));
    const Profile to(cmsCreate_sRGBProfileTHR(context));
    if (!from || !to || cmsGetColorSpace(from.get()) != cmsSigRgbData) return;
    const cmsHTRANSFORM transform =
        cmsCreateTransformTHR(context, from.get(), TYPE_RGBA_8, to.get(), TYPE_RGBA_8, INTENT_PERCEPTUAL,
                              cmsFLAGS_BLACKPOINTCOMPENSATION | cmsFLAGS_COPY_ALPHA | cmsFLAGS_NOCACHE);
    if (!transform) return;
    const auto row = 4 * static_cast<std::size_t>(pixels.width);
    tbb::parallel_for(0, pixels.height, [&](int y) {
        std::uint8_t* line = &pixels.rgba[row * static_cast<std::size_t>(y)];
        cmsDoTransform(transform, line, line, static_cast<cmsUInt32Number>(pixels.width));
    });
    cmsDeleteTransform(transform);
}

}  // namespace veld
