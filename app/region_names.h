#pragma once
// The kit's regions in plain words and in the order in which people think of a figure.
#include <QString>

#include "core/kit/base_kit.h"

namespace veld {

// "lid_l" -> "Left lids", "finger_index_r" -> "Right index finger"
QString plain_region(const std::string& name);
// Names of the regions that lie on the skin, those of the head first; without the two halves of all skin.
std::vector<std::string> skin_regions(const BaseKit& kit);

}  // namespace veld
