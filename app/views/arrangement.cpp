#include "app/views/arrangement.h"

#include <QStringList>
#include <algorithm>

namespace veld {
namespace {

const std::pair<ViewId, const char*> kNames[] = {
    {ViewId::Base, "base"}, {ViewId::Source, "source"}, {ViewId::Photo, "photo"}, {ViewId::Result, "result"}};

bool has(const std::vector<ViewId>& all, ViewId which) {
    return std::find(all.begin(), all.end(), which) != all.end();
}

}  // namespace

Arrangement arrange(const std::vector<ViewId>& things, std::size_t count) {
    Arrangement out;
    count = std::clamp<std::size_t>(count, 1, kMostViews);
    ViewId again = ViewId::Base;  // the last mesh is what is being made
    for (const ViewId id : things) {
        if (id != ViewId::Photo) again = id;
    }
    if (count == 1 && !things.empty()) return {{again}};
    for (const ViewId id : things) {
        if (out.size() < count) out.push_back({id});
    }
    const std::pair<double, double> sides[] = {{90, 0}, {40, 0}, {180, 0}, {-90, 0}};
    for (const auto& [yaw, pitch] : sides) {
        if (out.size() < count) out.push_back({again, true, yaw, pitch});
    }
    return out;
}

Arrangement those_of(const Arrangement& all, const std::vector<ViewId>& things) {
    Arrangement out;
    bool photo = false;
    for (const ViewSeat& seat : all) {
        if (!has(things, seat.shows) || out.size() == kMostViews) continue;
        if (seat.shows == ViewId::Photo && std::exchange(photo, true)) continue;
        out.push_back(seat);
    }
    return out;
}

QString to_text(const Arrangement& all) {
    QStringList out;
    for (const ViewSeat& seat : all) {
        const auto name = std::find_if(std::begin(kNames), std::end(kNames),
                                       [&](const auto& one) { return one.first == seat.shows; });
        QString one = QLatin1String(name->second);
        if (seat.own_camera) one += QString("@%1/%2").arg(seat.yaw, 0, 'f', 1).arg(seat.pitch, 0, 'f', 1);
        out << one;
    }
    return out.join(' ');
}

Arrangement arrangement_of(const QString& text) {
    Arrangement out;
    for (const QString& one : text.split(' ', Qt::SkipEmptyParts)) {
        const QString word = one.section('@', 0, 0), from = one.section('@', 1);
        const auto name = std::find_if(std::begin(kNames), std::end(kNames),
                                       [&](const auto& known) { return word == QLatin1String(known.second); });
        if (name == std::end(kNames) || out.size() == kMostViews) return {};
        ViewSeat seat{name->first};
        if (one.contains('@')) {
            bool yaw = false, pitch = false;
            seat = {name->first, true, from.section('/', 0, 0).toDouble(&yaw), from.section('/', 1).toDouble(&pitch)};
            if (!yaw || !pitch) return {};
        }
        out.push_back(seat);
    }
    return out;
}

}  // namespace veld
