#pragma once
// Joints and skin weights as the kit brings them. Positions in mm, rest pose of the base.
#include <string>
#include <vector>

#include "core/base/types.h"

namespace veld {

struct Joint {
    std::string name;
    int parent = -1;  // always an earlier joint
    Vec3 position = Vec3::Zero();
};

// Up to four joints per vertex; weights add up to 1, unused slots hold weight 0.
struct SkinWeights {
    std::vector<std::array<std::uint16_t, 4>> joint;
    std::vector<std::array<double, 4>> weight;
};

}  // namespace veld
