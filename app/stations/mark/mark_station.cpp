#include "app/stations/mark/mark_station.h"

#include "app/bench.h"
#include "app/stations/mark/mark_panel.h"

namespace veld {

MarkStation::MarkStation(const StationContext& context)
    : c_(context), panel_(new MarkPanel(context.session, context.mark)) {
    connect(panel_, &MarkPanel::loupe_toggled, &c_.bench, &Bench::set_loupe);
    connect(panel_, &MarkPanel::hold_toggled, &c_.bench, &Bench::hold_camera);
    for (const auto& [key, box] :
         {std::pair{Qt::Key_S, panel_->snap_box()}, {Qt::Key_L, panel_->loupe_box()}, {Qt::Key_H, panel_->hold_box()}})
        c_.keys.add(Station::Mark, key, [box = box] { box->toggle(); });
}

QWidget* MarkStation::panel() { return panel_; }

void MarkStation::entered() {
    if (c_.session.selected().empty()) c_.mark.select_next_missing();
}

}  // namespace veld
