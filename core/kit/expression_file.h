#pragma once
// An expression of a kit as a morph file: what it moves, and by how much (docs/formats.md, "Morphs").
#include <string_view>

#include "core/kit/base_kit.h"

namespace veld {

// One of the kit's, its ways rounded to a millionth of a millimetre.
std::string expression_text(const BaseKit& kit, const std::string& name);
// Whole positions. The kit's mesh and topology_key are looked at. Fails with BadFile, naming the entry; a morph of
// another base mesh is refused.
Result<Points> expression_from(std::string_view text, const std::string& path, const BaseKit& kit);

}  // namespace veld
