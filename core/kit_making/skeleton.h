#pragma once
// Joints and weights of a base that came in a file of their own.
#include "core/kit/base_kit.h"

namespace veld {

struct Skeleton {
    std::vector<Joint> joints;  // kit frame, parents first
    SkinWeights weights;        // per vertex of the base
    std::string key;            // of the file's bytes
    std::vector<std::string> notes;
};

// From a GLB with a skinned mesh that lies on the base: a vertex gets the weights of the place that it lies on. Fails
// as read_mesh and frame_on_base, and with BadInput where the file has no joints, or none that a mesh follows.
Result<Skeleton> read_skeleton(const std::string& path, const BaseKit& kit);

// The weights of the kit's own joints (kit.own_rig), per vertex of the base, from the file that they came in. Fails
// with BadInput when the kit has none, Io or BadFile when the file is gone or changed.
Result<SkinWeights> own_weights(const BaseKit& kit);

}  // namespace veld
