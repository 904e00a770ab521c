#include "app/stations/station_page.h"

#include <QShortcut>
#include <QWidget>
#include <algorithm>
#include <cmath>

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

double next_brush_size(double mm, bool larger) {
    return std::max(1.0, std::round(mm * (larger ? 1.25 : 0.8) + (larger ? 0.5 : -0.5)));
}

}  // namespace veld
