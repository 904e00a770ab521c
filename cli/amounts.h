#pragma once
// Morphs on a command line: FILE or FILE=AMOUNT.
#include "core/morph/morph.h"

namespace veld::cli {

// Read into `morphs`, which must stay as it is while the amounts are used. usual: the amount where none is said.
Result<std::vector<MorphAmount>> read_amounts(const BaseKit& kit, const std::vector<std::string>& texts, double usual,
                                              std::vector<Morph>& morphs);

}  // namespace veld::cli
