#pragma once
// A kit with what people changed in it.
#include "core/kit/base_kit.h"
#include "core/kit/kit_edits.h"

namespace veld {

// Fails as set_roles, and with BadInput where a region names vertices that the base does not have.
Result<BaseKit> edited_kit(const BaseKit& kit, const KitEdits& edits);

// Landmarks and curves at these places, in the kit's frame: the nearest on the skin, on the eyes for pupils. They
// count as set by hand. Fails with BadInput where one lies nowhere near.
Status move_landmarks(const LandmarkSet& places, BaseKit& kit);

}  // namespace veld
