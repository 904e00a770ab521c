#include "app/stations/touch/touch_station.h"

#include "app/scene/colours.h"
#include "app/stations/fit/fit_scene.h"
#include "app/stations/fit/fit_station.h"
#include "app/stations/touch/touch_panel.h"
#include "app/theme.h"

namespace veld {

TouchStation::TouchStation(const StationContext& context)
    : StationPage(context), panel_(new TouchPanel(context.session, context.touch)) {
    add_look_keys(c_, Station::Touch);
    add_brush_keys(c_, Station::Touch,
                   [this](bool larger) { c_.touch.set_size(next_brush_size(c_.touch.brush.radius_mm, larger)); });
    connect(&c_.touch, &TouchController::stroked, this, &TouchStation::show_stroke);
    connect(&c_.touch, &TouchController::changed, this, [this] { refresh({ViewId::Result}); });
}

QWidget* TouchStation::panel() { return panel_; }

void TouchStation::entered() { c_.touch.enter(); }

void TouchStation::left() {
    c_.touch.drop_stroke();
    c_.fits.left();
}

void TouchStation::before_showing() { c_.fits.before_showing(); }

std::vector<ViewId> TouchStation::shown() {
    std::vector<ViewId> out;
    const bool photos = c_.fits.photos().on();
    if (!photos && c_.scene.look.compare == Compare::Beside) out.push_back(ViewId::Base);
    if (!photos) out.push_back(ViewId::Source);
    if (c_.fits.shows()) out.push_back(ViewId::Result);
    return out;
}

std::vector<ViewId> TouchStation::offered() {
    std::vector<ViewId> out{ViewId::Base, ViewId::Source};
    if (c_.fits.shows()) out.push_back(ViewId::Result);
    return out;
}

Pane TouchStation::pane(ViewId which) {
    if (which == ViewId::Source) return c_.fits.source();
    if (which == ViewId::Base) return c_.fits.beside();
    Pane out = c_.fits.result(c_.touch.stroking());
    out.brush_mm = c_.touch.brush.radius_mm;
    if (c_.fits.live()) return out;
    out.gesture = Gesture::Touch;
    if (!c_.touch.why_not().isEmpty()) out.prompt = c_.touch.why_not();
    return out;
}

void TouchStation::stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    if (which == ViewId::Result) c_.touch.begin_stroke(ray, pressure, keys);
}
void TouchStation::stroke_moved(ViewId which, const Ray& ray, double pressure) {
    if (which == ViewId::Result) c_.touch.move_stroke(ray, pressure);
}
void TouchStation::stroke_ended(ViewId which) {
    if (which == ViewId::Result) c_.touch.end_stroke();
}

void TouchStation::show_stroke(const VertexIndices& moved) {
    ShownShape& shape = c_.fits.shape();
    if (!shape.mesh) return;
    if (shape.level != 0) {
        // strokes are shown on the base mesh itself: it is what they move
        c_.scene.shapes.show(shape, c_.touch.positions());
        c_.views.set_layers(ViewId::Result, {{shape.mesh, {}, theme::kClay, Shading::Clay, c_.scene.wire, 1}});
    }
    shape.mesh->move_vertices(c_.touch.positions(), moved);
    if (c_.scene.look.colours == Colouring::Distance)
        shape.mesh->recolour(moved, look_colours(c_.scene.look, c_.touch.distances()));
    shape.shown = nullptr;  // what is kept is packed anew when the stroke ends
    c_.views.redraw_quickly(ViewId::Result);
}

}  // namespace veld
