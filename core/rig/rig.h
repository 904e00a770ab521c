#pragma once
// Joints and skin weights as the kit brings them, and a pose of the joints, as data. Positions in mm, rest pose of the
// base.
#include <array>
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

struct Pose {
    std::vector<Mat3> turns;   // per joint, against its parent, about the joint itself; rest: identity
    Vec3 move = Vec3::Zero();  // of the first joint, mm
    // Build, not pose: how a joint's own skin and the way to its children are stretched, in the rest
    // frame, not handed down. Empty: nowhere.
    std::vector<Mat3> stretch;
    // How far the right and the left eye are shut, as shares of the kit's blink (core/fit/lids.h).
    std::array<double, 2> lids{0, 0};
    bool operator==(const Pose&) const = default;
};

}  // namespace veld
