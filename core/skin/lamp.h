#pragma once
// A lamp among the light that a skin's colours were taken in, told by the shadows that the shape casts on itself.
//
// Under a nose, a brow, a chin or the brim of a hat the lamp's light is missing while all other light is there. Every
// direction is tried: what a lamp there would light, by rays over the source's own surface, is one more term of the
// light (light.h), and the direction that leaves least unexplained is refined. The lamp is believed where it explains
// much more than light without one does; on skin that is evenly lit, or in soft light, none is found.
#include <functional>

#include "core/base/progress.h"
#include "core/skin/light.h"

namespace veld {

// places: at most some thousands are looked at. sees(i, towards): does nothing stand between place i and what lies in
// that direction? Asked from several threads. Nothing: no lamp, or cancelled.
std::optional<Lamp> find_lamp(const std::vector<LitPlace>& places,
                              const std::function<bool(std::size_t, const Vec3&)>& sees, const Progress& progress);

}  // namespace veld
