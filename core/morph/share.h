#pragma once
// A whole shape split into what each region owns: head share and body share, or any regions.
//
// Shares are the shape's differences times weights that add up to 1 on every vertex, the last share being what the
// others leave; so they add up to the whole to rounding. Before that the figure is moved so that its neck stands where
// the base's does: else a tall person's head share would lift the head off its neck. The body share keeps the way back
// as its root, which puts the feet on the base's floor again; it is in no vertex.
#include "core/mesh/soft_region.h"
#include "core/morph/region_mix.h"

namespace veld {

// Per vertex 0..1: 1 on the head and all that is in it, 0 on the body, between over band_mm of the neck above the
// ring.
std::vector<double> head_weights(const BaseKit& kit, double band_mm);

// What must be added to a shape to bring its neck ring to the height of the base's, as a height: a neck leans forward,
// and going its way by a tall person's 200 mm would push the head 40 mm out of place. Sideways moves are shape.
Vec3 neck_alignment(const BaseKit& kit, const Points& shape);

// Height of the lowest skin, mm.
double floor_of(const BaseKit& kit, const Points& shape);

struct ShareOptions {
    double band_mm = 55;
    const std::vector<double>* head = nullptr;  // weights instead of head_weights(band_mm); one per vertex, 0..1
    std::optional<Vec3> neck_move;              // instead of neck_alignment()
    bool on_floor = true;                       // the feet are brought to the base's floor by the body share's root
};

struct Shares {
    Morph head, body;
    Vec3 neck_move = Vec3::Zero();  // that the shape was moved by before it was split
    // what head + body (roots included) is moved by against the shape; zero unless it did not stand on the floor
    Vec3 lifted = Vec3::Zero();
};
// head + body = shape + lifted - base, to 1e-9 mm. name: "NAME head" and "NAME body". Fails as make_morph does.
Result<Shares> split_shares(const BaseKit& kit, const Points& shape, const std::string& name,
                            const ShareOptions& options = {});

// A morph split by weights (0..1 per vertex, each at most what the ones before left); what is left over is the last,
// named `rest`. The root goes to the rest.
Result<std::vector<Morph>> split_morph(const BaseKit& kit, const Morph& morph,
                                       const std::vector<std::pair<std::string, std::vector<double>>>& weights,
                                       const std::string& rest);

// A share for each region of the base, "NAME eyes" and so on, none for those where nothing moves; together the morph.
Result<std::vector<Morph>> region_shares(const BaseKit& kit, const BaseRegions& regions, const Morph& morph);

}  // namespace veld
