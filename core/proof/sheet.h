#pragma once
// A page of pictures with figures: what a shape looks like in its proofs, beside the base.
#include <functional>

#include "core/proof/prove.h"

namespace veld {

inline constexpr std::size_t kMostOnSheet = 12;

struct SheetText {
    std::string shape;                                                      // its name
    std::function<std::string(const std::string&)> word = std::identity{};  // fixed words, in the reader's language
};

struct ProofSheet {
    std::string png, pdf;  // whole files
};

// What people look at first: where figures are worst, then a figure and a face in plain attitudes.
std::vector<Proof> proofs_for_sheet(const std::vector<Proof>& proofs, const ProofReport& report);

// proofs: at most kMostOnSheet, each at the stop where it is worst, else at its last; report: of these at least.
// Fails with Cancelled.
Result<ProofSheet> proof_sheet(const ProofBench& bench, const std::vector<Proof>& proofs, const ProofReport& report,
                               Skinning skinning, const SheetText& text, const Progress& progress);

// Writes it as PATH.png and PATH.pdf; an ending .png or .pdf is left out of PATH first.
Status write_sheet(const ProofSheet& sheet, const std::string& path);

}  // namespace veld
