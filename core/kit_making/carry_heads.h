#pragma once
// How heads differ (known_heads.h), of the known kit as of a base that it was laid onto: each vertex differs as its
// place on the known base does, turned and sized as that was when it was laid on.
#include "core/kit_making/carry_shape.h"

namespace veld {

// The base's own head takes the place of the mean: nobody knows how it differs from those of its people. Null where
// the model knows no heads or the base has no region head_skin.
std::shared_ptr<const KnownHeads> carried_heads(const BaseKit& model, const ShapeCarrier& carrier,
                                                const std::vector<ModelPlace>& places, const BaseKit& base);

}  // namespace veld
