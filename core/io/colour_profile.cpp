#include "core/io/colour_profile.h"

#include <lcms2.h>
#include <tbb/parallel_for.h>

#include <memory>

#include "core/io/image_formats.h"

namespace veld {
namespace {

struct CloseProfile {
    void operator()(void* p) const { cmsCloseProfile(p); }
};
using Profile = std::unique_ptr<void, CloseProfile>;

}  // namespace

void to_srgb(Pixels& pixels, const std::vector<std::uint8_t>& profile) {
    if (profile.empty() || pixels.width == 0) return;
    const cmsContext context = cmsCreateContext(nullptr, nullptr);
    const std::unique_ptr<std::remove_pointer_t<cmsContext>, void (*)(cmsContext)> held(context, cmsDeleteContext);
    const Profile from(
        cmsOpenProfileFromMemTHR(context, profile.data(), static_cast<cmsUInt32Number>(profile.size())));
    const Profile to(cmsCreate_sRGBProfileTHR(context));
    if (!from || !to || cmsGetColorSpace(from.get()) != cmsSigRgbData) return;
    const bool sixteen = !pixels.rgba16.empty();
    const cmsUInt32Number type = sixteen ? TYPE_RGBA_16 : TYPE_RGBA_8;
    const cmsHTRANSFORM transform =
        cmsCreateTransformTHR(context, from.get(), type, to.get(), type, INTENT_PERCEPTUAL,
                              cmsFLAGS_BLACKPOINTCOMPENSATION | cmsFLAGS_COPY_ALPHA | cmsFLAGS_NOCACHE);
    if (!transform) return;
    const auto row = 4 * static_cast<std::size_t>(pixels.width);
    tbb::parallel_for(0, pixels.height, [&](int y) {
        const std::size_t first = row * static_cast<std::size_t>(y);
        void* line = sixteen ? static_cast<void*>(&pixels.rgba16[first]) : &pixels.rgba[first];
        cmsDoTransform(transform, line, line, static_cast<cmsUInt32Number>(pixels.width));
        for (std::size_t i = first; sixteen && i < first + row; ++i) pixels.rgba[i] = eight_of(pixels.rgba16[i]);
    });
    cmsDeleteTransform(transform);
}

}  // namespace veld
