#include "app/stations/deliver/deliver_station.h"

#include "app/stations/deliver/deliver_panel.h"

namespace veld {

DeliverStation::DeliverStation(const StationContext& c) : panel_(new DeliverPanel(c.session)) {}

QWidget* DeliverStation::panel() { return panel_; }

}  // namespace veld
