#pragma once
// A morph file taken apart: its card, and what moves by how much. Text and binary alike (docs/formats.md, "Morph
// file").
#include <string_view>

#include "core/base/result.h"
#include "core/base/types.h"

namespace veld {

inline constexpr std::string_view kBinaryMorph = "VELDMRF1";

struct MorphParts {
    std::string card;          // JSON, an object; all but the differences
    std::vector<Index> index;  // vertices that move, ascending
    Points delta;              // by how much, mm
};

// Fails with BadFile: no such file, cut short, an entry out of order or no number.
Result<MorphParts> morph_parts(std::string_view bytes, const std::string& path);
// Is all that moves of a base with so many vertices? Fails with BadFile.
Status check_range(const MorphParts& parts, const std::string& path, std::size_t vertices);

}  // namespace veld
