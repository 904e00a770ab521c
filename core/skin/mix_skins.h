#pragma once
// Skins of several people as one, as their shapes are mixed.
#include "core/base/progress.h"
#include "core/morph/region_mix.h"
#include "core/skin/layers.h"

namespace veld {

struct SkinShare {
    std::shared_ptr<const LayeredSkin> skin;
    double amount = 0;                         // everywhere,
    std::map<std::string, double> in_regions;  // and what comes to it in these of face_regions()
};
// Weighed at every place by the amounts there, in linear light; what they leave of 1 is the base's own, and together
// they are never more than 1. Amounts below 0 count as 0. Fails with BadInput where nothing of them is more than 0,
// else as composed_tile(), Cancelled.
Result<SkinLayer> mixed_skin(const BaseKit& kit, const std::vector<SkinShare>& shares, const std::string& name,
                             int size, const Progress& progress);

}  // namespace veld
