#pragma once
// A shape in all of its proofs: the figures of each, worst first.
#include "core/proof/measure.h"

namespace veld {

// What a shape is proven with. Heavy; made once for a shape.
struct ProofBench {
    ProofSubject shape, base;
    std::shared_ptr<const ProofPlaces> places;
    // own: expressions that are known of this shape. Fails as ProofSubject::make().
    static Result<ProofBench> make(const BaseKit& kit, Points shape, const std::vector<Proof>& proofs,
                                   const Progress& progress, const std::map<std::string, Points>& own = {});
    // The same with corrections; what is heavy is shared. heads: as ProofSubject::corrected().
    ProofBench corrected(const std::vector<ShapeCorrection>& corrections, std::map<std::string, double> heads) const;
};

struct ProofRow {
    std::string proof;
    ProofKind kind = ProofKind::Pose;
    std::size_t stop = 0;  // of the proof's, where it is worst
    ProofFigure figure;
};

struct ProofReport {
    std::vector<ProofRow> rows;  // one for each proof and measure, worst first
    std::size_t stops = 0;       // that were measured
    // Rows that are worth a look.
    std::size_t bad() const;
};

// Fails with Cancelled.
Result<ProofReport> prove(const ProofBench& bench, const std::vector<Proof>& proofs, Skinning skinning,
                          const Progress& progress);

std::string proof_report_json(const ProofReport& report);  // an object: "proofs", each with its figures
// One figure as people read it: "3", "0.12 mm", "8 %".
std::string proof_value_text(const ProofFigure& figure);

}  // namespace veld
