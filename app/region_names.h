#pragma once
// The kit's regions in plain words.
#include <QString>
#include <string>

namespace veld {

// "lid_l" -> "Left lids", "finger_index_r" -> "Right index finger"
QString plain_region(const std::string& name);

}  // namespace veld
