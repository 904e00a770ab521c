#pragma once
// Proofs that people made, as text (docs/formats.md, "Proofs").
#include "core/proof/proofs.h"

namespace veld {

std::string proofs_text(const std::vector<Proof>& proofs, const std::vector<Joint>& joints);
// what: names the text in messages. Fails with BadFile, naming the proof and what is wrong with it.
Result<std::vector<Proof>> proofs_from(const std::string& text, const std::vector<Joint>& joints,
                                       const std::string& what);
// Fails as read_file and proofs_from.
Result<std::vector<Proof>> read_proofs(const std::string& path, const std::vector<Joint>& joints);

}  // namespace veld
