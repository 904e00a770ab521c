#pragma once
// A pose that is to go out of a shape, as far as people have come with it.
#include <cstdint>

#include "core/rig/rig.h"

namespace veld {

struct RestWork {
    Pose pose;
    bool found = false;               // by the program, in the shape of which `shape` is the key
    std::uint64_t shape = 0;          // CacheKey of its positions
    std::vector<std::size_t> turned;  // joints, the most turned first; of a found pose
    double left_mm = 0;               // median of what pose and build do not explain; of a found pose
    bool operator==(const RestWork&) const = default;
};

}  // namespace veld
