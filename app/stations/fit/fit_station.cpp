#include "app/stations/fit/fit_station.h"

#include "app/scene/colours.h"
#include "app/stations/fit/fit_panel.h"
#include "app/stations/fit/fit_scene.h"
#include "app/theme.h"
#include "app/window/commands.h"
#include "app/window/look_bar.h"
#include "core/kit/base_kit.h"

namespace veld {
namespace {

constexpr double kLineReach = 6;     // pixels of the screen
constexpr double kPlaceBrushMm = 3;  // the ring at the pointer while places are dragged

}  // namespace

FitStation::FitStation(const StationContext& context)
    : StationPage(context), panel_(new FitPanel(context.session, context.regions, context.photos)) {
    add_look_keys(c_, Station::Fit);
    connect(&c_.regions, &RegionController::changed, this, [this] { refresh({ViewId::Base}); });
}

QWidget* FitStation::panel() { return panel_; }

void FitStation::left() { c_.fits.left(); }

void FitStation::before_showing() { c_.fits.before_showing(); }

std::vector<ViewId> FitStation::shown() {
    std::vector<ViewId> out =
        c_.fits.photos().on() ? std::vector{ViewId::Photo} : std::vector{ViewId::Base, ViewId::Source};
    if (c_.fits.shows()) out.push_back(ViewId::Result);
    return out;
}

std::vector<ViewId> FitStation::offered() {
    std::vector<ViewId> out{ViewId::Base, ViewId::Source};
    if (c_.fits.photos().on()) out.push_back(ViewId::Photo);
    if (c_.fits.shows()) out.push_back(ViewId::Result);
    return out;
}

Pane FitStation::pane(ViewId which) {
    if (which == ViewId::Source) return c_.fits.source();
    if (which == ViewId::Base) return c_.regions.shows() ? region() : c_.fits.beside();
    Pane out = c_.fits.result();
    if (!placing()) return out;
    out.gesture = Gesture::Touch;
    out.brush_mm = kPlaceBrushMm;
    out.prompt = tr("Press on the mesh and drag it to where it is in the photograph.");
    return out;
}

// The base in the colours of a region's weights.
Pane FitStation::region() {
    Pane out = c_.scene.base_pane();
    if (!c_.session.has_kit()) return out;
    c_.scene.shapes.show(region_, c_.session.state().kit->mesh.positions,
                         {.values = &c_.regions.weights(), .coloured = share_colours});
    out.layers = {{region_.mesh, {}, theme::kClay, Shading::Colours, c_.scene.wire, 1}};
    out.title = tr("Base  %1").arg(c_.regions.shown_name());
    out.legend = {100, "%", false, false};
    if (!c_.regions.painting()) return out;
    out.gesture = Gesture::Touch;
    out.brush_mm = c_.regions.radius_mm;
    out.prompt = c_.regions.prompt();
    return out;
}

PhotoPane FitStation::photo_pane() { return c_.fits.photos().pane(); }

std::optional<Marks> FitStation::marks(ViewId which, const Camera&) {
    if (which != ViewId::Photo) return {};
    return c_.fits.photos().marks();
}

bool FitStation::placing() const { return c_.photos.placing() && c_.fits.photos().on(); }

void FitStation::stroke_begun(ViewId which, const Ray& ray, double, Qt::KeyboardModifiers keys) {
    if (which == ViewId::Base && c_.regions.painting()) c_.regions.begin_stroke(ray, keys);
    if (which == ViewId::Result && placing()) c_.photos.begin_place(ray);
}
void FitStation::stroke_moved(ViewId which, const Ray& ray, double) {
    if (which == ViewId::Base && c_.regions.painting()) c_.regions.move_stroke(ray);
    if (which == ViewId::Result && placing()) c_.photos.move_place(ray);
}
void FitStation::stroke_ended(ViewId which) {
    if (which == ViewId::Base) c_.regions.end_stroke();
    if (which == ViewId::Result && placing()) c_.photos.end_place();
}

void FitStation::marker_pressed(ViewId, const std::string& name, Qt::KeyboardModifiers keys) {
    if (keys.testFlag(Qt::ControlModifier)) c_.photos.remove_outline_point(name);
}
void FitStation::marker_released(ViewId which) {
    if (which == ViewId::Photo) c_.photos.end_drag_outline();
}
void FitStation::photo_clicked(const QPointF& pixel, double zoom) { c_.photos.click(pixel, kLineReach / zoom); }
void FitStation::photo_marker_dragged(const std::string& name, const QPointF& pixel) {
    c_.photos.drag_outline(name, pixel);
}

void add_look_keys(const StationContext& c, Station station) {
    c.commands.add(
        c.menus.view, station,
        {.id = "look_swap", .title = FitStation::tr("Swap with what it is compared with"), .key = Qt::Key_X},
        [looks = &c.looks] { looks->swap(); });
    c.commands.add(c.menus.view, station,
                   {.id = "look_next_colours", .title = FitStation::tr("Next colours"), .key = Qt::Key_C},
                   [looks = &c.looks] { looks->next_colours(); });
}

}  // namespace veld
