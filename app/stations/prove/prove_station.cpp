#include "app/stations/prove/prove_station.h"

#include <algorithm>
#include <cmath>

#include "app/scene/base_marks.h"
#include "app/scene/colours.h"
#include "app/scene/scene.h"
#include "app/stations/prove/prove_panel.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr double kHalfWidth = 0.85;  // of a figure's width that a view half as wide as high shows
constexpr double kWider = 1.15;      // than at rest
constexpr double kNearMm = 45;       // around a place that is flown to
constexpr int kFinest = 1;           // subdivisions: two figures at once, on the thread that people wait for
constexpr double kMostStretch = 50;  // %

std::vector<Colour> cut_colours(const std::vector<float>& cut) {
    std::vector<Colour> out;
    for (const float c : cut) out.push_back(bytes_of(c > 0 ? theme::kOchre : theme::kClay));
    return out;
}

// values: base-2 logarithms
std::vector<Colour> stretch_colours(const std::vector<float>& values) {
    Look look;
    look.colours = Colouring::EdgeStretch, look.worst = kMostStretch;
    std::vector<float> percent;
    for (const float v : values) percent.push_back(100 * (std::exp2(v) - 1));
    return look_colours(look, percent);
}

}  // namespace

ProveStation::ProveStation(const StationContext& context)
    : StationPage(context),
      prove_(context.prove),
      mender_(context.session, prove_),
      panel_(new ProvePanel(context.session, prove_, mender_)) {
    add_brush_keys(c_, Station::Prove,
                   [this](bool larger) { mender_.set_size(next_brush_size(mender_.brush.radius_mm, larger)); });
    connect(&mender_, &MendController::changed, this, [this] { refresh({ViewId::Result}); });
    connect(&mender_, &MendController::stroked, this, &ProveStation::show_stroke);
    connect(&prove_, &ProveController::changed, this, [this] {
        refresh({ViewId::Base, ViewId::Result});
        emit figures_changed();
    });
    connect(&prove_, &ProveController::flew_to, this, [this](const Vec3& place, const Vec3& normal) {
        if (c_.views.client() != this || !c_.views.isVisible()) return;
        Camera to = c_.views.camera().camera();
        look_at_place({{place, kNearMm}, normal}, to);
        c_.views.fly_to(to);
    });
}

QWidget* ProveStation::panel() { return panel_; }

void ProveStation::left() {
    mender_.drop_stroke();
    mender_.set_brushing(false);
    prove_.set_awake(false);
}

QString ProveStation::figures() const {
    if (!prove_.can_prove()) return {};
    if (prove_.preparing()) return tr("The expressions are carried over to this shape…");
    if (!prove_.report()) return tr("Not measured yet");
    const std::size_t bad = prove_.report()->bad();
    return bad ? tr("Proofs measured at %1 stops; figures to look at: %2").arg(prove_.report()->stops).arg(bad)
               : tr("Proofs measured at %1 stops; nothing to look at").arg(prove_.report()->stops);
}

std::vector<ViewId> ProveStation::shown() {
    if (!c_.session.has_kit()) return {ViewId::Base};
    return {ViewId::Base, ViewId::Result};
}

std::vector<ViewId> ProveStation::offered() {
    std::vector<ViewId> out = shown();
    out.insert(out.begin() + 1, ViewId::Source);
    return out;
}

// Packed anew only when it is another shape or level: fine ones take a second, and views are refreshed often.
void ProveStation::show_plain(const Points& positions, ShownShape& shown) {
    const int level = prove_.playing() ? 0 : std::min(c_.scene.look.level, kFinest);
    Points& last = last_[&shown];
    const bool same = shown.shown && shown.level == level && shown.kit.lock() == c_.session.state().kit;
    if (same && last == positions) return;
    c_.scene.shapes.show(shown, positions, {.level = level});
    last = positions;
    shown.shown = c_.session.state().kit;  // until something else is packed
}

Pane ProveStation::beside(const Points& positions, ShownShape& shown, const QString& title,
                          const std::vector<float>* values) {
    Pane out;
    out.title = title;
    out.quickly = prove_.playing();
    const bool coloured = values && !values->empty();
    if (coloured)
        c_.scene.shapes.show(
            shown, positions,
            {.values = values,
             .coloured = prove_.colours() == ProveController::Colours::Cuts ? cut_colours : stretch_colours});
    else
        show_plain(positions, shown);
    out.layers.push_back(
        {shown.mesh, {}, theme::kClay, coloured ? Shading::Colours : c_.scene.shading, c_.scene.wire, 1});
    if (coloured && prove_.colours() == ProveController::Colours::Stretch) out.legend = {kMostStretch, "%", true};
    return out;
}

Pane ProveStation::pane(ViewId which) {
    if (which == ViewId::Source) return StationPage::pane(which);
    if (!c_.session.has_kit()) return which == ViewId::Base ? c_.scene.base_pane() : Pane{};
    const QString proof = proof_name(prove_.selected());
    if (which == ViewId::Base) return beside(prove_.base(), base_, tr("Base  %1").arg(proof), nullptr);
    if (!prove_.can_prove()) return {};
    const std::vector<float>& values = prove_.values();
    Pane out = beside(prove_.shape(), shape_, tr("%1  %2").arg(prove_.shape_name(), proof), &values);
    const bool fit = prove_.from() == ProveController::From::Fit;
    BaseShapes::Amounts amounts;
    for (const ExpressionAmount& e : prove_.now().expressions) amounts[e.name] += e.amount;
    c_.scene.shapes.wear_skin(shape_, fit ? c_.session.state().fit() : nullptr, amounts);
    if (prove_.preparing()) out.busy = tr("Carrying the expressions over…");
    if (mender_.brushing() && mender_.can_mend()) out.gesture = Gesture::Touch, out.brush_mm = mender_.brush.radius_mm;
    return out;
}

void ProveStation::stroke_begun(ViewId which, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    if (which == ViewId::Result) mender_.begin_stroke(ray, pressure, keys);
}
void ProveStation::stroke_moved(ViewId which, const Ray& ray, double pressure) {
    if (which == ViewId::Result) mender_.move_stroke(ray, pressure);
}
void ProveStation::stroke_ended(ViewId which) {
    if (which == ViewId::Result) mender_.end_stroke();
}

// Strokes are shown on the base mesh itself: it is what they move.
void ProveStation::show_stroke(const VertexIndices& moved) {
    if (!shape_.mesh || !mender_.stroking()) return;
    if (shape_.level != 0) {
        c_.scene.shapes.show(shape_, mender_.positions());
        c_.views.set_layers(ViewId::Result, {{shape_.mesh, {}, theme::kClay, Shading::Clay, c_.scene.wire, 1}});
    }
    shape_.mesh->move_vertices(mender_.positions(), moved);
    shape_.shown = nullptr;  // what is kept is packed anew when the stroke ends
    c_.views.redraw_quickly(ViewId::Result);
}

Framing ProveStation::home() {
    if (!c_.session.has_kit()) return {};
    if (prove_.of_face()) {
        const Box head = head_box(*c_.session.state().kit);
        return {head.centre(), 0.55 * head.size().norm()};
    }
    const Box box = bounding_box(prove_.base());
    return {box.centre(), std::max(0.55 * box.size().norm(), kHalfWidth * box.size().x())};
}

std::string ProveStation::framed() {
    if (!c_.session.has_kit()) return {};
    if (prove_.of_face()) return c_.session.state().kit->topology_key + " face";
    // arms that are stretched out need more room
    const double wide = bounding_box(prove_.base()).size().x(),
                 usual = bounding_box(c_.session.state().kit->mesh.positions).size().x();
    return c_.session.state().kit->topology_key + (wide > kWider * usual ? " wide figure" : " figure");
}

}  // namespace veld
