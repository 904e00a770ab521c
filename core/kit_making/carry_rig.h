#pragma once
// The model's joints and skin weights on the base.
#include "core/kit_making/lay_model.h"

namespace veld {

// Each joint keeps how it lies to the ring of skin that two bones share: the ring's own turn, size and place between
// the model and the base, as a similarity. In the base's frame and pose.
std::vector<Joint> carried_joints(const BaseKit& model, const LaidModel& laid);

// From where each vertex lies on the model, averaged with its neighbours (`rounds` times), the four strongest.
// Vertices without a place take their neighbours'. At most four joints, adding up to 1.
SkinWeights carried_weights(const BaseKit& model, const std::vector<ModelPlace>& places, const Mesh& base, int rounds);

// A value per vertex of the model (0..1) on the base; vertices without a place take their neighbours'.
std::vector<float> carried_values(const BaseKit& model, const std::vector<ModelPlace>& places, const Mesh& base,
                                  const std::vector<float>& values);

}  // namespace veld
