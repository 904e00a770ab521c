#pragma once
// What a command line says as NAME=VALUE; morphs as FILE or FILE=AMOUNT.
#include "core/morph/morph.h"

namespace veld::cli {

// Around the first '='. Empty name: it is not of that form.
std::pair<std::string, std::string> parted(const std::string& text);

// Read into `morphs`, which must stay as it is while the amounts are used. usual: the amount where none is said.
Result<std::vector<MorphAmount>> read_amounts(const BaseKit& kit, const std::vector<std::string>& texts, double usual,
                                              std::vector<Morph>& morphs);

// What --shape or --morph say, one of them: every vertex of the base.
Result<Points> shape_or_mix(const BaseKit& kit, const std::string& shape, const std::vector<std::string>& morphs);

}  // namespace veld::cli
