#pragma once
// What is known at a triangle's corners, between them.
#include <vector>

#include "core/base/types.h"

namespace veld {

inline double between_corners(const std::vector<float>& values, const Triangle& t, const Vec3& shares) {
    return shares[0] * static_cast<double>(values[t[0]]) + shares[1] * static_cast<double>(values[t[1]]) +
           shares[2] * static_cast<double>(values[t[2]]);
}
inline Vec3 between_corners(const Points& values, const Triangle& t, const Vec3& shares) {
    return shares[0] * values[t[0]] + shares[1] * values[t[1]] + shares[2] * values[t[2]];
}

}  // namespace veld
