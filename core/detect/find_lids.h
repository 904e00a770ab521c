#pragma once
// Where the lids of an eye end, seen on the surface itself: a lid stands before the eyeball by its thickness, so its
// edge is a step. The networks cannot tell half-shut lids on plain clay.
//
// Steps are looked for around the centre of the eyeball, in degrees up from its equator, along the edges that the
// kit's lids have at every share of its blink; lids that are shut show one furrow instead.
#include <optional>

#include "core/detect/surface_view.h"
#include "core/fit/lids.h"

namespace veld {

struct FoundLids {
    double shut = 0;      // share of the kit's blink; below 0: opened wider than the kit's
    double opening = 0;   // as eye_opening() has it, of the kit's lids so far down
    double step = 0;      // mm that the lids stand before the ball, both edges' mean; of shut lids the furrow's depth
    bool furrow = false;  // there is no gap, but where the lids meet is seen
    double up = 0;        // degrees that the gap or the furrow lies above where the kit has it
};

// Of the right and the left eye; people's eyes are as open as each other unless one clearly is not. shape: the kit's
// vertices as the head most likely is, its eyes seated. Empty: no edge can be told from the surface's unevenness, or
// the kit has no blink.
std::array<std::optional<FoundLids>, 2> find_lids(const SurfaceLook& look, const BaseKit& kit, const Points& shape);

}  // namespace veld
