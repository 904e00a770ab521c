#pragma once
// One kit's base laid onto another one's: what the first one has on its surface can be carried to the second.
//
// Where both are one surface (a new version of one's own: vertices in another order, UVs changed, parts added), it
// stays as it is. Elsewhere it is fitted onto the other one, by the landmarks of both.
#include "core/kit_making/lay_model.h"

namespace veld {

struct LaidBase {
    LaidModel laid;           // positions: of `from`'s vertices, in the rest of `to`
    std::vector<Index> same;  // per vertex of `to` the one of `from` at its place, kNone: none; empty: another surface
};

// Fails with DegenerateInput when the kits share too few landmarks, Cancelled.
Result<LaidBase> lay_base(const BaseKit& from, const BaseKit& to, const Progress& progress);

}  // namespace veld
