#pragma once
// Morphs as files: JSON for people and other programs, a binary form for the project file (docs/formats.md).
#include <string_view>

#include "core/morph/morph.h"

namespace veld {

std::string morph_text(const Morph& morph);
// Fails with BadFile naming the entry; a morph of another base mesh is refused.
Result<Morph> parse_morph(std::string_view text, const std::string& path, const BaseKit& kit);
Result<Morph> read_morph(const std::string& path, const BaseKit& kit);

// The same without loss, a fifth of the size; what a project keeps. parse_morph reads it too.
std::string morph_bytes(const Morph& morph);

}  // namespace veld
