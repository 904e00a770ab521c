#pragma once
// Places on a line through points.
#include <algorithm>

#include "core/base/types.h"

namespace veld {

// line: at least one point.
inline Vec3 closest_on_polyline(const Vec3& p, const Points& line) {
    Vec3 best = line.front();
    for (std::size_t i = 1; i < line.size(); ++i) {
        const Vec3 d = line[i] - line[i - 1];
        const double t = d.squaredNorm() > 0 ? std::clamp((p - line[i - 1]).dot(d) / d.squaredNorm(), 0.0, 1.0) : 0.0;
        const Vec3 q = line[i - 1] + t * d;
        if ((q - p).squaredNorm() < (best - p).squaredNorm()) best = q;
    }
    return best;
}

}  // namespace veld
