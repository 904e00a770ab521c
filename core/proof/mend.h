#pragma once
// What is wrong with a shape in a proof put right there, and kept as a correction that the pose or expression brings
// in: taken back to rest through the skin weights (pose space deformation [Lewis, Cordner, Fong 2000], with the
// drivers of core/morph/drivers.h).
#include "core/proof/prove.h"

namespace veld {

// ShutLids: lids that stay open where the base's meet. PartLips: lips that cross. PushApart: any skin that cuts
// itself.
enum class Mend { ShutLids, PartLips, PushApart };
inline constexpr Mend kMends[] = {Mend::ShutLids, Mend::PartLips, Mend::PushApart};
const char* mend_name(Mend mend);   // "shut_lids"
const char* mend_plain(Mend mend);  // "Shut the lids"
std::optional<Mend> mend_from_name(const std::string& name);

struct Mending {
    Points ways;                           // per vertex of the base, to be added at rest, mm
    std::size_t before = 0, after = 0;     // cuts of what was to be mended
    double gap_before = 0, gap_after = 0;  // lids, mm
};

// Fails with BadInput where there is nothing to mend of that kind, saying so, and with Cancelled.
Result<Mending> mend(const ProofBench& bench, const ProofStop& stop, Skinning skinning, Mend what,
                     const Progress& progress);

// A correction that only heads bring in belongs to the shape at rest; others to expressions and poses of it.
bool is_of_rest(const BaseKit& kit, const std::vector<MorphDriver>& drivers);

// What a change of the bent shape is at rest: per vertex of the base. Skin that is folded so far that it has no way
// back stays.
Points taken_back(const ProofSubject& shape, const ProofStop& stop, Skinning skinning, const Points& from,
                  const Points& to);

// The share of `share` (0..1) of the shape's difference from the base taken off, per vertex by weight; to be added at
// rest.
Points reduced_ways(const BaseKit& kit, const Points& shape, const std::vector<float>& weight, double share);
// Weights of one of the kit's regions, fading out over soft_mm.
std::vector<float> region_weights(const BaseKit& kit, const std::string& region, double soft_mm = 12);

// The ways as corrections that the stop brings in wholly: by the heads that the shape is made of
// (ProofSubject::corrected(); none: every shape gets them), by the expressions that move the same skin, and each by
// the joint in whose fold its skin lies: "NAME, thigh_l". One "NAME" where no joint is turned. Fails with BadInput
// when nothing moves.
Result<std::vector<Morph>> corrections_of(const ProofSubject& shape, const ProofStop& stop, const Points& ways,
                                          const std::string& name);
// The correction with more, one of corrections_of() for the same stop: what the stop brings in of it already is taken
// into account. Fails with BadInput when the stop brings in too little of it.
Result<Morph> corrected_further(const ProofSubject& shape, const ProofStop& stop, const Morph& correction,
                                const Morph& more);

}  // namespace veld
