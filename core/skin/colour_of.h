#pragma once
// The colour of a picture between its texels.
#include <algorithm>
#include <cmath>

#include "core/base/types.h"
#include "core/io/image.h"

namespace veld {

inline Vec3 colour_of(const Pixels& p, const Vec2& at) {  // 0..255
    const double x = std::clamp(at.x() - 0.5, 0.0, p.width - 1.001),
                 y = std::clamp(at.y() - 0.5, 0.0, p.height - 1.001);
    const int i = static_cast<int>(x), j = static_cast<int>(y), i1 = std::min(i + 1, p.width - 1),
              j1 = std::min(j + 1, p.height - 1);
    const double u = x - i, v = y - j;
    const auto c = [&](int a, int b) {
        const std::uint8_t* q = &p.rgba[4 * (static_cast<std::size_t>(b) * static_cast<std::size_t>(p.width) +
                                             static_cast<std::size_t>(a))];
        return Vec3(q[0], q[1], q[2]);
    };
    return (1 - v) * ((1 - u) * c(i, j) + u * c(i1, j)) + v * ((1 - u) * c(i, j1) + u * c(i1, j1));
}

}  // namespace veld
