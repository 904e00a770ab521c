#pragma once
// The joints of the base's own file at work in the kit: which of them does what, and their weights in our joints.
#include "core/io/mesh_file.h"
#include "core/kit/base_kit.h"

namespace veld {

// Which of the file's joints does what one of ours does: by place, by how they hang together, and by names in common
// use. known: the kit's joints as they were carried over; own: the file's, in the same frame.
std::map<std::string, std::string> recognise_roles(const std::vector<Joint>& known, const std::vector<Joint>& own);

// Per vertex of the base the weights of its own file's joints (numbers in kit.own_rig->joints); all 0 where it has
// none.
SkinWeights weights_in_kit(const KitOriginal& original, const FileSkin& skin, std::size_t base_vertices);

// Puts the kit's joints where the file's are that have their roles, and gives them those joints' weights: each of the
// file's joints counts for the nearest above it that has a role. Joints of ours without one share what their parent
// gets in the proportions that they have.
void take_own_rig(const SkinWeights& own_weights, BaseKit& kit);

// Other roles, then the same again. Fails with BadInput where a name is no joint, and as in_original where the file is
// gone.
Status set_roles(const std::map<std::string, std::string>& roles, BaseKit& kit);

}  // namespace veld
