#pragma once
// Is the mouth open, as the networks see it, and what that means for the base.
#include "core/detect/carry_over.h"

namespace veld {

// How much farther apart the inner edges of the lips lie than on the base, mm in the kit's frame: median of the
// level views. Nothing when too few views saw them.
std::optional<double> mouth_gap(const FaceReference& reference, const std::vector<SeenView>& views);

// The pairs with their places on the base carried along to the kit as posed with its jaw down. What belongs to the
// lower lip goes with the lower lip, also where the two touch.
void carry_to_open(const BaseKit& kit, const BaseKit& opened, std::vector<SurfacePair>& pairs);

}  // namespace veld
