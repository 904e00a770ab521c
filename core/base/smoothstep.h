#pragma once
// From 0 to 1 without a kink at either end.
#include <algorithm>

namespace veld {

// 3 t^2 - 2 t^3 of t held within 0..1.
inline double smoothstep(double t) {
    t = std::clamp(t, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

}  // namespace veld
