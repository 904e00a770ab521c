#pragma once
// Names of the soft regions of a base (region_mix.h), in their order: no kit is needed to list them.
#include <string>
#include <vector>

namespace veld {

std::vector<std::string> face_region_names();

}  // namespace veld
