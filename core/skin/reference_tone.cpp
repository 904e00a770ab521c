#include "core/skin/reference_tone.h"

#include <cmath>

#include "core/io/map_image.h"
#include "core/photo/look_at_photos.h"
#include "core/skin/log_colour.h"
#include "core/skin/smooth_colours.h"
#include "core/skin/tone.h"

namespace veld {
namespace {

constexpr std::size_t kLeastPlaces = 20;

}  // namespace

Result<Colour> reference_tone(const BaseKit& kit, const Image& picture, const Progress& progress) {
    LookOptions options;
    options.find = false;
    const auto looked = look_at_photos(kit, {picture}, {}, options, progress);
    if (!looked) return looked.error();
    const LookedAt& one = looked->front();
    std::vector<Vec3> logs;
    for (std::size_t i = 0; one.found && i < one.found->samples.size(); ++i) {
        const Vec3 c = linear_between(one.photo.pixels, one.found->samples[i].pixel, false);
        logs.push_back(log_colour(c));
    }
    if (logs.size() < kLeastPlaces)
        return Error{ErrorCode::NotFound, "No face was found in '" + picture.name +
                                              "'. Take a picture that shows the face, or choose a colour instead."};
    const Vec3 linear = colour_of_log(mean_tone(logs));
    const auto byte = [&](int k) {
        return static_cast<std::uint8_t>(std::lround(255 * linear_to_srgb(std::clamp(linear[k], 0.0, 1.0))));
    };
    return Colour{byte(0), byte(1), byte(2), 255};
}

}  // namespace veld
