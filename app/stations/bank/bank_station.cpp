#include "app/stations/bank/bank_station.h"

#include "app/stations/bank/bank_panel.h"

namespace veld {

BankStation::BankStation(const StationContext& c) : panel_(new BankPanel(c.session, c.bank, c.exchange)) {}

QWidget* BankStation::panel() { return panel_; }

}  // namespace veld
