#pragma once
// Joints of a shape for rigs elsewhere.
#include "core/kit/base_kit.h"
#include "core/rig/skin_weights.h"

namespace veld {

// {"format":"veldstone-joints",…}: of each joint its parent, place and move against the base, mm (docs/formats.md).
std::string joints_text(const BaseKit& kit, const std::vector<Joint>& joints);

// A shape of the base with its skeleton where `joints` has it, skin weights and textures, ready to be posed: glTF 2.0
// binary, metres. A kit whose file brings joints of its own gives those, where the shape takes them. Gives what a
// check of the weights found; weights that are not right are not written (DegenerateInput, with what is wrong).
Result<WeightCheck> export_posable_glb(const BaseKit& kit, const Points& shape, const std::vector<Joint>& joints,
                                       const std::string& path, const WeightSettings& settings = {});

}  // namespace veld
