#include "app/stations/fit/fit_station.h"

#include "app/look_bar.h"
#include "app/stations/fit/fit_panel.h"

namespace veld {

FitStation::FitStation(const StationContext& c) : panel_(new FitPanel(c.session, c.regions, c.photos)) {
    add_look_keys(c, Station::Fit);
}

QWidget* FitStation::panel() { return panel_; }

void add_look_keys(const StationContext& c, Station station) {
    c.keys.add(station, Qt::Key_X, [looks = &c.looks] { looks->swap(); });
    c.keys.add(station, Qt::Key_C, [looks = &c.looks] { looks->next_colours(); });
}

}  // namespace veld
