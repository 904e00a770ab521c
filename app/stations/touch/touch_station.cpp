#include "app/stations/touch/touch_station.h"

#include "app/stations/fit/fit_station.h"
#include "app/stations/touch/touch_panel.h"

namespace veld {

TouchStation::TouchStation(const StationContext& c) : panel_(new TouchPanel(c.session, c.touch)) {
    add_look_keys(c, Station::Touch);
    for (const bool larger : {false, true})
        c.keys.add(Station::Touch, larger ? Qt::Key_BracketRight : Qt::Key_BracketLeft,
                   [touch = &c.touch, larger] { touch->set_size(next_brush_size(touch->brush.radius_mm, larger)); });
}

QWidget* TouchStation::panel() { return panel_; }

}  // namespace veld
