#include "app/stations/gather/gather_station.h"

#include "app/stations/gather/gather_panel.h"
#include "app/window/main_window.h"

namespace veld {

GatherStation::GatherStation(const StationContext& context)
    : StationPage(context), panel_(new GatherPanel(context.session, context.tidy)) {
    connect(panel_, &GatherPanel::ask_for_sources, &c_.window, &MainWindow::ask_for_sources);
    connect(panel_, &GatherPanel::repair_with, this, [this](Tool tool) {
        c_.window.go_to(Station::Tidy);
        c_.tidy.ask_for_tool(tool);
    });
}

QWidget* GatherStation::panel() { return panel_; }

QString GatherStation::figures() const { return figures_of_source(c_); }

}  // namespace veld
