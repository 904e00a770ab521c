#pragma once
// The file that a kit was made from, and the way back into its vertices.
#include <string_view>

#include "core/base/result.h"
#include "core/kit/base_kit.h"

namespace veld {

// What a kit remembers of its file's bytes, to know it again.
std::string original_key(std::string_view bytes);

// A shape of the base in the vertices, order, unit and axes of the file that the kit was made from. positions: of the
// base, kit frame. Fails with BadInput when the kit was not made from a file, Io or BadFile when that is gone or
// changed.
Result<Mesh> in_original(const BaseKit& kit, const Points& positions);

// figure.json's "original" as text and back; `why` says what is wrong with it (empty: nothing).
std::string original_text(const KitOriginal& original);
KitOriginal original_from(const std::string& json, std::size_t base_vertices, std::string& why);

}  // namespace veld
