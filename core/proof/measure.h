#pragma once
// What is measured of a shape in a proof, beside the base in the same one.
#include "core/proof/proof_subject.h"

namespace veld {

// Cuts: pairs of skin triangles that cut each other and cut each other neither on the base in the same proof nor on
//   the shape at rest; in a pose not within folds in which the base's own skin cuts itself; LidCuts, LipCuts: those of
//   lids, of upper and lower lip. TeethCuts: of teeth or tongue and skin.
// LidGap, mm: how far lids stay open where the base's shut. LidSunk, mm: how deep lids lie in an eyeball.
// Volume: what elbows, knees and neck lose between joint and skin, share of it. Floor, mm: how much higher or deeper
//   than the base's the soles go, against rest. Stretch: edges against the base's in the same proof, each against its
//   own rest, as a factor of at least 1 (one edge in a thousand is more).
enum class ProofMeasure { Cuts, LidCuts, LipCuts, TeethCuts, LidGap, LidSunk, Volume, Floor, Stretch };
inline constexpr ProofMeasure kProofMeasures[] = {
    ProofMeasure::Cuts,    ProofMeasure::LidCuts, ProofMeasure::LipCuts, ProofMeasure::TeethCuts, ProofMeasure::LidGap,
    ProofMeasure::LidSunk, ProofMeasure::Volume,  ProofMeasure::Floor,   ProofMeasure::Stretch};
const char* proof_measure_name(ProofMeasure measure);   // "lid_gap"
const char* proof_measure_plain(ProofMeasure measure);  // "lids stay open"
const char* proof_measure_unit(ProofMeasure measure);   // "mm", "%", "" for counts

struct ProofFigure {
    ProofMeasure measure = ProofMeasure::Cuts;
    double value = 0, base = 0;  // of the shape, of the base in the same proof
    Index at = kNone;            // the vertex where it is worst
    // How bad: 1 is where it is worth a look. Cuts any; a lid open or sunk by a tenth of a millimetre; a twentieth of
    // a volume more than the base loses; 5 mm off the floor; edges half as long again.
    double badness() const;
};

// What hangs on a kit alone, made once for all shapes of it.
class ProofPlaces {
 public:
    explicit ProofPlaces(const BaseKit& kit);
    ~ProofPlaces();
    ProofPlaces(ProofPlaces&&) noexcept;

    // positions: of shape and base at that stop. Figures that the kit has no places for are left out.
    std::vector<ProofFigure> measure(const ProofSubject& shape, const ProofSubject& base, const ProofStop& stop,
                                     const Points& shape_at, const Points& base_at) const;

    // Pairs of skin triangles, ascending: what Cuts counts.
    std::vector<std::pair<Index, Index>> new_cuts(const ProofSubject& shape, const ProofSubject& base,
                                                  const ProofStop& stop, const Points& shape_at,
                                                  const Points& base_at) const;
    // Per vertex, of the shape at that stop: 1 where its skin cuts itself and the base's does not.
    VertexMask cutting(const ProofSubject& shape, const ProofSubject& base, const ProofStop& stop,
                       const Points& shape_at, const Points& base_at) const;
    // Per vertex: how much longer than the base's its edges got, as a base-2 logarithm; the one farthest from 0.
    std::vector<float> stretch(const Points& shape_rest, const Points& base_rest, const Points& shape_at,
                               const Points& base_at) const;

 private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

}  // namespace veld
