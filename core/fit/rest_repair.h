#pragma once
// Skin that cuts itself once a pose is out of it: where arms lay on the flank or thighs on one another, what the scan
// showed of either was little, and a turn taken back makes folds of it.
#include "core/kit/base_kit.h"
#include "core/rig/rig.h"

namespace veld {

struct RestRepair {
    Index cuts_before = 0, cuts_after = 0;  // pairs of skin triangles that do not cut on the base
    VertexIndices vertices;                 // that were moved, ascending
};

// What skin is to be like where it is mended.
struct SkinLike {
    const Points& shape;                                  // every vertex of the base
    const std::vector<std::pair<Index, Index>>& allowed;  // pairs of skin triangles that may cut, ascending
    const TriangleIndices* only = nullptr;                // null: all, or the skin triangles that are looked at
};
// Around each cut the shape becomes that other one, bent by what surrounds it; see below.
RestRepair repair_like(const BaseKit& kit, const SkinLike& like, Points& shape);

// Around each new cut the shape becomes the base's own, bent by what surrounds it: the difference from the base goes
// on smoothly over the cut (biharmonic [Botsch & Sorkine 2008], after the affine map of the surroundings), over as few
// rings as help. What no ring helps stays as it is. rest: every vertex, mm.
RestRepair repair_rest(const BaseKit& kit, Points& rest);

// The same for a figure that stands in a pose: looked at and mended at rest, and posed again.
RestRepair repair_rest(const BaseKit& kit, const Pose& pose, Points& posed);

}  // namespace veld
