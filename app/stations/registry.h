#pragma once
// All stations, in the order in which people work.
#include "app/stations/station_page.h"

namespace veld {

const std::vector<StationEntry>& stations();

}  // namespace veld
