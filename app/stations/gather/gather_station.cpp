#include "app/stations/gather/gather_station.h"

#include "app/main_window.h"
#include "app/stations/gather/gather_panel.h"

namespace veld {

GatherStation::GatherStation(const StationContext& c) : panel_(new GatherPanel(c.session, c.tidy)) {
    connect(panel_, &GatherPanel::ask_for_sources, &c.window, &MainWindow::ask_for_sources);
    connect(panel_, &GatherPanel::repair_with, this, [window = &c.window, tidy = &c.tidy](Tool tool) {
        window->go_to(Station::Tidy);
        tidy->ask_for_tool(tool);
    });
}

QWidget* GatherStation::panel() { return panel_; }

}  // namespace veld
