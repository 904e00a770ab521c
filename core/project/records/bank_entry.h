#pragma once
// A morph in the bank with its slider, and settings of all sliders that are kept.
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "core/base/id.h"
#include "core/morph/amounts.h"

namespace veld {

struct BankEntry {
    std::shared_ptr<const Morph> morph;
    double amount = 0;
    bool muted = false, solo = false, favourite = false;
    MorphId id = MorphId::make();                        // stays when another shape takes the morph's place
    std::shared_ptr<const std::string> sheet = nullptr;  // its proof sheet, a PNG file; null: none is kept
    SubjectId subject = {};                              // whose shape it was made of; none: not told
};

// All sliders at once, by the morphs' names; what is not named is at 0, or, with drivers, at its usual amount.
struct MixSetting {
    std::map<std::string, double> amounts;
    std::vector<RegionAmount> regions;
    bool operator==(const MixSetting&) const = default;
};

}  // namespace veld
