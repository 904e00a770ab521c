#pragma once
// A shape in all of its proofs: the figures of each, worst first.
#include "core/proof/measure.h"

namespace veld {

// What a shape is proven with. Heavy; made once for a shape.
struct ProofBench {
    ProofSubject shape, base;
    ProofPlaces places;
    // Fails as ProofSubject::make().
    static Result<ProofBench> make(const BaseKit& kit, Points shape, const std::vector<Proof>& proofs,
                                   const Progress& progress);
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
