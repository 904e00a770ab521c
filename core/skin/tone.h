#pragma once
// One tone: from one skin's colours to another's, region by region, without a step between regions.
#include <optional>

#include "core/skin/bake_surface.h"

namespace veld {

struct RegionTone {
    std::string region;
    Vec3 off = Vec3::Zero();  // mean logarithm of linear colour, first against second
    Index vertices = 0;
};
// Of logarithms of colours: what stands out of them has little say.
Vec3 mean_tone(const std::vector<Vec3>& logs);

struct ToneField {
    Points log;  // per vertex of the base: what the first is to be divided by, as a logarithm
    std::vector<RegionTone> regions;
};
// first, second: per vertex, logarithms of linear colours; nothing where one is not known. Robust means over each
// region, lips, lids and ears apart; regions in which few are known are as their neighbours. Between regions it goes
// over as a screened membrane over the surface.
Result<ToneField> tone_field(const BakeSurface& base, const std::vector<std::optional<Vec3>>& first,
                             const std::vector<std::optional<Vec3>>& second);

}  // namespace veld
