#pragma once
// What hands changed on a fit, kept apart from the fit: it survives a new fit, can be scaled, switched
// off, and wiped by region.
#include "core/kit/base_kit.h"

namespace veld {

struct TouchLayer {
    VertexIndices vertex;  // ascending, skin only
    Points move;           // mm in the kit frame, at amount 1
    double amount = 1;     // 0..2
    bool on = true;
    bool empty() const { return vertex.empty(); }
    double strength() const { return on ? amount : 0; }
    bool operator==(const TouchLayer&) const = default;
};

// The fit with its layer: skin moved, lashes along with the lids.
Points with_touch(const BaseKit& kit, const Points& fitted, const TouchLayer& layer);

// The layer that makes `touched` of `fitted`, at the strength that `like` has (which must not be 0). Moves of
// less than a ten-thousandth of a millimetre are none.
TouchLayer touch_between(const BaseKit& kit, const Points& fitted, const Points& touched, const TouchLayer& like);

// Without what was done to these vertices.
TouchLayer wiped(const TouchLayer& layer, const VertexIndices& vertices);

// Largest move, mm, at the layer's strength.
double largest_touch(const TouchLayer& layer);

}  // namespace veld
