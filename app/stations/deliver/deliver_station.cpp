#include "app/stations/deliver/deliver_station.h"

#include "app/stations/deliver/deliver_panel.h"

namespace veld {

DeliverStation::DeliverStation(const StationContext& context)
    : StationPage(context), mix_(context.scene), panel_(new DeliverPanel(context.session, context.skins)) {}

QWidget* DeliverStation::panel() { return panel_; }

QString DeliverStation::figures() const { return figures_of_bank(c_); }

Pane DeliverStation::pane(ViewId which) { return which == ViewId::Result ? mix_.mix() : StationPage::pane(which); }

}  // namespace veld
