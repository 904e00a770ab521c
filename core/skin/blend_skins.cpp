#include "core/skin/blend_skins.h"

#include <algorithm>
#include <cmath>

#include <tbb/parallel_for.h>

#include "core/skin/colour_of.h"

namespace veld {

Result<Pixels> blend_skins(const Pixels& a, const Pixels& b, double share) {
    if (a.width <= 0 || b.width <= 0 || a.rgba.empty() || b.rgba.empty())
        return Error{ErrorCode::BadInput, "One of the two has no skin; make one, then blend."};
    Pixels out;
    out.width = std::max(a.width, b.width), out.height = std::max(a.height, b.height);
    out.rgba.resize(std::size_t{4} * static_cast<std::size_t>(out.width) * static_cast<std::size_t>(out.height), 255);
    tbb::parallel_for(0, out.height, [&](int y) {
        for (int x = 0; x < out.width; ++x) {
            const auto at = [&](const Pixels& p) {
                return colour_of(p, Vec2((x + 0.5) * p.width / out.width, (y + 0.5) * p.height / out.height));
            };
            const Vec3 c = (1 - share) * at(a) + share * at(b);
            for (int k = 0; k < 3; ++k)
                out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width) +
                              static_cast<std::size_t>(x)) +
                         static_cast<std::size_t>(k)] =
                    static_cast<std::uint8_t>(std::clamp(std::lround(c[k]), 0L, 255L));
        }
    });
    return out;
}

}  // namespace veld
