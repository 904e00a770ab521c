#pragma once
// Colours as logarithms: there skin, light and tone add up.
#include "core/base/types.h"

namespace veld {

inline constexpr double kDark = 0.01;  // added before it, so that black has one

// colour: linear 0..1
inline Vec3 log_colour(const Vec3& colour) { return (colour.array() + kDark).log().matrix(); }
inline Vec3 colour_of_log(const Vec3& log) { return (log.array().exp() - kDark).matrix(); }

}  // namespace veld
