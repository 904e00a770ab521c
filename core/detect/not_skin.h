#pragma once
// What of a head's scan is not its skin: hair, cap, helmet, glasses, beard, collar, a stand.
//
// Three signs are weighed together, small cells of the surface at a time: how far it stands outside of the most
// likely head (likely_head.h) in shares of how well that is known, how rough it is, and how far its colour is from
// that of the face. Their weights are a logistic regression over made-up heads for each part of the head
// (benchmarks/README.md, "what is not skin"). Patches below six square centimetres are given back.
#include <vector>

#include "core/detect/surface_view.h"
#include "core/fit/likely_head.h"

namespace veld {

enum class HeadPart { Face, Ear, Skull, Neck };
inline constexpr int kHeadParts = 4;
const char* head_part_name(HeadPart part);

// One cell of the surface, a few millimetres wide.
struct SkinCell {
    HeadPart part = HeadPart::Face;
    bool told = false;      // it lies at the head: of a body or a stand nothing is told
    double outside = 0;     // mm that it stands outside of the likely head; negative: inside
    double deviations = 0;  // the same in shares of what is known
    double rough = 0;       // 0 flat .. 1: how much its normals differ
    double colour = 0;      // distance of chromaticity from the face's; 0 without colours
    double light = 0;       // darker than the face: the ratio's logarithm to base 2
    bool coloured = false;
    VertexIndices vertices;     // of the source
    std::vector<Index> beside;  // cells
    double area = 0;            // mm^2, about
};
// look: in the kit's frame; mesh: what it was made of.
std::vector<SkinCell> skin_cells(const SurfaceLook& look, const BaseKit& kit, const LikelyHead& likely);

// Likelihood that a cell is no skin, by its own signs alone.
double not_skin(const SkinCell& cell);

struct LeftOut {
    VertexMask vertices;              // of the source: not to be matched
    double share = 0;                 // of the source's surface
    std::map<HeadPart, double> part;  // share of each part of the head that is covered by it
};
LeftOut find_not_skin(const SurfaceLook& look, const BaseKit& kit, const LikelyHead& likely);

}  // namespace veld
