#include "app/stations/station_page.h"

#include <QLocale>
#include <QWidget>
#include <algorithm>
#include <cmath>

#include "app/scene/scene.h"
#include "app/session.h"
#include "app/views/view_set.h"
#include "app/window/commands.h"

namespace veld {

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

QString figures_of_source(const StationContext& c) {
    const Source* now = c.session.state().source();
    if (!now) return {};
    const std::size_t triangles = now->mesh->corner_vertex.size() - 2 * std::size_t{now->mesh->face_count()};
    return StationPage::tr("%1: %2 triangles, %3 vertices")
        .arg(QString::fromStdString(now->name), QLocale().toString(static_cast<qulonglong>(triangles)),
             QLocale().toString(static_cast<qulonglong>(now->mesh->positions.size())));
}

QString figures_of_bank(const StationContext& c) {
    const auto& bank = c.session.state().bank;
    if (bank.empty()) return {};
    const auto mixed = std::count_if(bank.begin(), bank.end(), [](const BankEntry& e) { return e.amount != 0; });
    return StationPage::tr("Morphs in the bank: %1; in the mix: %2").arg(bank.size()).arg(mixed);
}

void add_brush_keys(const StationContext& c, Station station, const std::function<void(bool larger)>& set) {
    for (const bool larger : {true, false})
        c.commands.add(c.menus.edit, station,
                       {.id = larger ? "brush_larger" : "brush_smaller",
                        .title = larger ? StationPage::tr("Larger brush") : StationPage::tr("Smaller brush"),
                        .key = larger ? Qt::Key_BracketRight : Qt::Key_BracketLeft},
                       [set, larger] { set(larger); });
}

double next_brush_size(double mm, bool larger) {
    return std::max(1.0, std::round(mm * (larger ? 1.25 : 0.8) + (larger ? 0.5 : -0.5)));
}

}  // namespace veld
