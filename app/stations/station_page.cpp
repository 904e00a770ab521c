#include "app/stations/station_page.h"

#include <QShortcut>
#include <QWidget>
#include <algorithm>
#include <cmath>

#include "app/scene/scene.h"
#include "app/views/view_set.h"

namespace veld {

StationKeys::StationKeys(QWidget* window, std::function<Station()> current)
    : QObject(window), window_(window), current_(std::move(current)) {}

// One shortcut a key, however many stations want it: Qt gives a key that two shortcuts claim to neither.
void StationKeys::add(Station station, const QKeySequence& key, std::function<void()> act) {
    std::vector<Act>& acts = acts_[key];
    if (acts.empty()) {
        auto* shortcut = new QShortcut(key, window_);
        connect(shortcut, &QShortcut::activated, this, [this, key] {
            for (const Act& one : acts_.at(key)) {
                if (one.station == current_()) return one.run();
            }
        });
    }
    acts.push_back({station, std::move(act)});
}

Pane StationPage::pane(ViewId which) {
    if (which == ViewId::Base) return c_.scene.base_pane();
    if (which == ViewId::Source) return c_.scene.source.pane({.shading = c_.scene.shading});
    return {};
}

Framing StationPage::home() { return c_.scene.head_framing(); }

void StationPage::refresh(std::initializer_list<ViewId> which) {
    if (c_.views.client() == this) c_.views.refresh(which);
}

Framing home_of_source(const StationContext& c) {
    if (!c.scene.source.is_figure()) return c.scene.head_framing();
    const Box box = c.scene.source.box();
    return {box.centre(), 0.55 * box.size().y()};
}

std::string name_of_source(const StationContext& c) {
    const Source* now = c.session.state().source();
    return now ? now->name + (c.scene.source.is_figure() ? " figure" : "") : "";
}

double next_brush_size(double mm, bool larger) {
    return std::max(1.0, std::round(mm * (larger ? 1.25 : 0.8) + (larger ? 0.5 : -0.5)));
}

}  // namespace veld
