#pragma once
// Morph targets: sparse differences against the base, in the base's own frame (mm).
#include <string>
#include <vector>

#include "core/io/base_kit.h"

namespace veld {

struct Morph {
    std::string name;
    std::string topology;        // BaseKit::topology_key of the base that it belongs to
    std::vector<Index> index;    // ascending; vertices that move
    Points delta;                // parallel to index, mm
    double low = 0, high = 1;    // the range that sliders show; other amounts are allowed
    std::string note;
    std::string figures;         // JSON of the fit that it came from, or empty
    bool operator==(const Morph&) const = default;
};

struct MorphAmount {
    const Morph* morph = nullptr;
    double amount = 0;
};

// Differences below least_mm are exactly zero. Fails with BadInput when the counts differ: the
// message says by how much and what that usually means.
Result<Morph> make_morph(const BaseKit& kit, const Points& shape, const std::string& name, double least_mm = 1e-4);

// base + sum of amount * delta. Amount 0 gives the base exactly.
Points mix_morphs(const Points& base, const std::vector<MorphAmount>& amounts);

// Morph file: JSON, docs/formats.md.
std::string morph_text(const Morph& morph);
Result<Morph> parse_morph(std::string_view text, const std::string& path, const BaseKit& kit);
Result<Morph> read_morph(const std::string& path, const BaseKit& kit);

// The base with these morphs as OBJ, in the base's vertex, face, UV and group order.
Status export_morphed_obj(const BaseKit& kit, const std::vector<MorphAmount>& amounts, const std::string& path);

// The base with these morphs as named morph targets (the amounts become the default weights),
// joints and skin weights, textures inside: glTF 2.0 binary, metres.
Status export_glb(const BaseKit& kit, const std::vector<MorphAmount>& morphs, const std::string& path);

}  // namespace veld
