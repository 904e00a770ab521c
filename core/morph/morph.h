#pragma once
// Morph targets: sparse differences against the base, in the base's own frame (mm).
#include <optional>
#include <string>
#include <vector>

#include "core/kit/base_kit.h"
#include "core/morph/amounts.h"
#include "core/morph/drivers.h"

namespace veld {

enum class MorphKind { Whole, Head, Body, Region, Expression, Fix };
inline constexpr MorphKind kMorphKinds[] = {MorphKind::Whole,  MorphKind::Head,       MorphKind::Body,
                                            MorphKind::Region, MorphKind::Expression, MorphKind::Fix};
const char* morph_kind_name(MorphKind kind);
std::optional<MorphKind> morph_kind_from_name(const std::string& name);

constexpr int kMorphTags = 6;  // colours that a morph can be tagged with, besides none

struct Morph {
    std::string name;
    std::string topology;      // BaseKit::topology_key of the base that it belongs to
    std::vector<Index> index;  // ascending; vertices that move
    Points delta;              // parallel to index, mm
    Vec3 root = Vec3::Zero();  // moves the whole figure, mm at amount 1: the root height of a body share
    // Joints whose move people fixed, mm at amount 1; where the others go the shape tells (joint_moves.h).
    std::map<std::string, Vec3> joints;
    double low = 0, high = 1;          // the range that sliders show; other amounts are allowed
    double usual = 0;                  // what a reset goes back to
    std::vector<MorphDriver> drivers;  // empty: only its slider brings it in
    MorphKind kind = MorphKind::Whole;
    std::string group;  // path, "heads/marsh"; empty: none
    int tag = 0;        // 0: none, 1..kMorphTags
    std::string note;
    std::string origin;   // what it was made from, in words
    std::string figures;  // JSON of the fit that it came from, or empty
    bool operator==(const Morph&) const = default;
};

// Differences below least_mm are exactly zero. Fails with BadInput when the counts differ: the
// message says by how much and what that usually means.
Result<Morph> make_morph(const BaseKit& kit, const Points& shape, const std::string& name, double least_mm = 1e-4);

// base + sum of amount * delta, all of it moved by the sum of amount * root. Amount 0 gives the base exactly.
Points mix_morphs(const Points& base, const std::vector<MorphAmount>& amounts);

// How far each morph moves every vertex of the base, mm. Fails with BadInput and its name when one belongs to another
// base.
Result<std::vector<Points>> whole_deltas(const BaseKit& kit, const std::vector<const Morph*>& morphs);

// What a shape does with eyes, teeth, tongue and lashes: as it has them, moved along with its skin, or left where the
// base has them.
enum class PartsChoice { AsTheyAre, Follow, Stay };
void place_parts(const BaseKit& kit, PartsChoice choice, Points& shape);

}  // namespace veld
