#pragma once
// Eyelids that hang or are shut: the kit with its lids down as a subject's, and the same shape with its eyes open
// again. The way of the lids is the kit's own blink; a kit without that expression has none.
#include <map>
#include <string>

#include "core/kit/base_kit.h"

namespace veld {

// Share of the kit's blink, of the right and of the left eye. 0: as the kit has them; below 0: opened wider.
using LidsShut = std::array<double, 2>;  // Pose::lids

// Where an eyeball of the kit is in a shape of it; empty: it has no vertices, or they lie on one another.
std::optional<Similarity> eye_seat(const BaseKit& kit, const KitEye& eye, const Points& shape);

bool can_blink(const BaseKit& kit);

// A shape of the kit with its lids moved by so much more: the blink's way, turned and sized with each eyeball.
Points move_lids(const BaseKit& kit, const Points& positions, const LidsShut& by);

// How open a marked eye is: height of the gap between the lids' middles against the eye's width, with the lids so far
// down; landmarks in any frame. Empty where a point of the eye is missing.
std::optional<double> eye_opening(const std::map<std::string, Vec3>& marked, bool left);

// How far the kit's lids must come down until its eyes are as open as the marked ones; 0 for an eye that is open as
// eyes are.
LidsShut lids_of(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                 const std::map<std::string, Vec3>& marked);

enum class LidState { Open, Half, Shut };
const char* lid_state_name(LidState state);
LidState lid_state(double opening);

}  // namespace veld
