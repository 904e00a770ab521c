#include "app/stations/bank/bank_station.h"

#include <algorithm>

#include "app/scene/colours.h"
#include "app/stations/bank/bank_panel.h"
#include "app/stations/bank/rest_tab.h"
#include "app/theme.h"
#include "app/views/view_set.h"
#include "core/kit/base_kit.h"

namespace veld {

BankStation::BankStation(const StationContext& context)
    : StationPage(context),
      rest_(context.session, context.bank),
      moves_(context.session),
      mix_(context.scene),
      panel_(new BankPanel(context.session, context.bank, rest_, moves_, context.exchange)) {
    const auto all = [this] { refresh({ViewId::Base, ViewId::Source, ViewId::Result}); };
    connect(&rest_, &RestController::changed, this, [this, all] {
        if (c_.bank.page() == BankController::Page::Rest) all();
    });
    connect(&moves_, &MovesController::changed, this, [this] {
        if (moving()) refresh({ViewId::Base, ViewId::Result});
    });
    connect(&c_.bank, &BankController::page_changed, this, all);
    connect(&c_.bank, &BankController::changed, this, [this] { refresh({ViewId::Base, ViewId::Result}); });
}

QWidget* BankStation::panel() { return panel_; }

QString BankStation::figures() const { return figures_of_bank(c_); }

// While a pose is taken out: the shape in three poses.
std::vector<ViewId> BankStation::shown() {
    if (resting()) return {ViewId::Base, ViewId::Source, ViewId::Result};
    return mix_.views();
}

// Poses and joints are looked at whole.
Framing BankStation::home() {
    if (!resting() && !moving()) return StationPage::home();
    const Box box = bounding_box(c_.session.state().kit->mesh.positions);
    return {box.centre(), 0.55 * box.size().norm()};
}

std::optional<Marks> BankStation::marks(ViewId which, const Camera& camera) {
    if (!moving() || c_.bank.preview()) return {};
    Marks out;
    moves_.add_marks(which, camera, out);
    return out;
}

void BankStation::marker_pressed(ViewId, const std::string& name, Qt::KeyboardModifiers) {
    if (moving()) moves_.press(name);
}
void BankStation::marker_dragged(ViewId which, const std::string&, const Ray& ray) {
    if (moving() && which == ViewId::Result) moves_.drag(ray);
}
void BankStation::marker_released(ViewId) {
    if (moving()) moves_.end_drag();
}

Pane BankStation::at_rest(std::size_t which) {
    Pane out;
    out.title = stock_pose_name(rest_, rest_.view(which));
    out.quickly = true;  // a slider moves on at once
    c_.scene.shapes.show(posed_[which], rest_.shape(which), {.level = c_.scene.look.level});
    out.layers.push_back({posed_[which].mesh, {}, theme::kClay, c_.scene.shading, c_.scene.wire, 1});
    if (which == 0 && rest_.view(0) == -1) out.prompt = tr("Click to select a joint.");
    return out;
}

Pane BankStation::pane(ViewId which) {
    if (resting()) return at_rest(which == ViewId::Base ? 0 : which == ViewId::Source ? 1 : 2);
    if (which == ViewId::Base) return base();
    if (which == ViewId::Source) return StationPage::pane(which);
    const BankController& bank = c_.bank;
    if (bank.preview()) return preview();
    return bank.page() == BankController::Page::Regions && !bank.region().empty() ? mix_with_region() : mix_.mix();
}

// A shape that came back, by its distance from the base.
Pane BankStation::preview() {
    const BankController::Preview& preview = *c_.bank.preview();
    const double worst = scale_for(preview.colour);
    Pane out = mix_.shape(*preview.shape, preview.title, distance_colours(preview.colour, worst));
    if (!preview.colour.empty()) out.legend = length_legend(worst, tr("%1 from the base"));
    for (const Index v : preview.marked) {
        Marker m;
        m.name = "vertex " + std::to_string(v);
        m.position = (*preview.shape)[v];
        m.colour = theme::kOchre;
        m.selected = true;
        out.marks.markers.push_back(std::move(m));
    }
    return out;
}

Pane BankStation::mix_with_region() {
    const BaseRegions* all = c_.bank.regions();
    if (!all) return mix_.mix();
    const auto at = std::find(all->names.begin(), all->names.end(), c_.bank.region());
    std::vector<Colour> colours;
    for (const float w : all->weight[static_cast<std::size_t>(at - all->names.begin())])
        colours.push_back(bytes_of(between(theme::kClay, theme::kOchre, 0.75 * static_cast<double>(w))));
    Pane out = mix_.mix(colours);
    out.prompt = tr("Click to select a region.");
    return out;
}

// While a whole shape is parted: how much of the base belongs to the head.
Pane BankStation::base() {
    Pane out = c_.scene.base_pane();
    const bool parting = c_.bank.page() == BankController::Page::Make && c_.session.has_kit() &&
                         !c_.session.state().kit->neck_ring.empty();
    if (!parting) return out;
    const std::vector<float> weights = c_.bank.share_weights();
    c_.scene.shapes.show(share_, c_.session.state().kit->mesh.positions,
                         {.values = &weights, .coloured = share_colours});
    out.layers = {{share_.mesh, {}, theme::kClay, Shading::Colours, c_.scene.wire, 1}};
    out.title = tr("Base  the head's share");
    out.legend = {100, "%", false, false};
    if (!c_.bank.painting()) return out;
    out.gesture = Gesture::Touch;
    out.brush_mm = c_.bank.radius_mm;
    out.prompt = tr("Paint what belongs to the head; Ctrl removes.");
    return out;
}

void BankStation::clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers) {
    if (resting()) return which == ViewId::Base ? rest_.select_under(ray) : void();
    if (which == ViewId::Result && c_.bank.page() == BankController::Page::Regions && !c_.bank.preview())
        c_.bank.pick_region(ray);
}

void BankStation::stroke_begun(ViewId which, const Ray& ray, double, Qt::KeyboardModifiers keys) {
    if (which == ViewId::Base) c_.bank.begin_stroke(ray, keys);
}
void BankStation::stroke_moved(ViewId which, const Ray& ray, double) {
    if (which == ViewId::Base) c_.bank.move_stroke(ray);
}
void BankStation::stroke_ended(ViewId which) {
    if (which == ViewId::Base) c_.bank.end_stroke();
}

}  // namespace veld
