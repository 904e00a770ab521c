#pragma once
// How far two shapes of one mesh lie apart: the farthest vertex, mm.
#include <algorithm>

#include "core/base/types.h"

namespace veld {

inline double apart(const Points& a, const Points& b) {
    double out = 0;
    for (std::size_t v = 0; v < a.size(); ++v) out = std::max(out, (a[v] - b[v]).norm());
    return out;
}

}  // namespace veld
