#pragma once
// A bank moves house: morphs made for one kit become morphs of another.
//
// Where both bases are one surface (a new version of one's own: vertices in another order, UVs changed, parts added),
// vertices at the same place take the difference as it is. Elsewhere the old base is fitted onto the new one, by the
// landmarks of both, and each vertex takes the difference of its place on it.
#include "core/kit_making/lay_model.h"
#include "core/morph/morph.h"

namespace veld {

struct CarriedMorph {
    Morph morph;             // kind, name, group, range and note as they were
    double most_before = 0;  // mm, the largest move on the old base and on the new one
    double most_after = 0;
    double stretch_before =
        0;                     // 95 % of how much lengths of edges change under it, on the old base and on the new one
    double stretch_after = 0;  // (1: not at all)
    Index worst = kNone;       // vertex of the new base where the most is lost against its place on the old one
    double worst_mm = 0;
};

struct CarriedBank {
    std::vector<CarriedMorph> morphs;
    std::size_t exact = 0;    // vertices of the new base that take differences as they are
    std::size_t without = 0;  // of its skin, that have no place on the old one and stay
    double apart_mm = 0;      // median distance of the two surfaces as they were laid on one another
    std::vector<std::string> notes;
};

// Fails with BadInput when a morph belongs to another base, DegenerateInput when the kits share too few landmarks,
// Cancelled.
Result<CarriedBank> carry_morphs(const BaseKit& from, const BaseKit& to, const std::vector<const Morph*>& morphs,
                                 const Progress& progress);

}  // namespace veld
