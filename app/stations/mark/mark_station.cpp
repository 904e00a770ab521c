#include "app/stations/mark/mark_station.h"

#include "app/scene/scene.h"
#include "app/stations/mark/mark_panel.h"
#include "app/views/view_set.h"
#include "app/window/commands.h"

namespace veld {
namespace {

constexpr double kNudgeMm = 0.5, kFineNudgeMm = 0.1;

}  // namespace

MarkStation::MarkStation(const StationContext& context)
    : StationPage(context), panel_(new MarkPanel(context.session, context.mark)) {
    const auto again = [this] { refresh({ViewId::Base, ViewId::Source, ViewId::Photo}); };
    connect(panel_, &MarkPanel::loupe_toggled, this, [this, again](bool on) {
        loupe_ = on;
        again();
    });
    connect(panel_, &MarkPanel::hold_toggled, this, [this](bool on) {
        hold_camera_ = on;
        if (on) c_.views.stop_flight();
    });
    connect(&c_.session, &Session::selection_changed, this, [this, again] {
        again();
        if (c_.views.client() == this) fly_to_selected();
    });
    connect(&c_.mark.joints(), &JointController::changed, this, [this] { refresh({ViewId::Source}); });
    const std::tuple<const char*, Qt::Key, QCheckBox*> switches[] = {{"mark_snap_on", Qt::Key_S, panel_->snap_box()},
                                                                     {"mark_loupe_on", Qt::Key_L, panel_->loupe_box()},
                                                                     {"mark_hold_on", Qt::Key_H, panel_->hold_box()}};
    for (const auto& [id, key, box] : switches)
        c_.commands.add(c_.menus.landmarks, Station::Mark,
                        {.id = id, .title = box->text(), .key = key, .hint = box->toolTip()},
                        [box = box] { box->toggle(); });
}

QWidget* MarkStation::panel() { return panel_; }

QString MarkStation::figures() const { return panel_->summary(); }

void MarkStation::entered() {
    if (c_.session.selected().empty()) c_.mark.select_next_missing();
}

std::vector<ViewId> MarkStation::shown() {
    return {ViewId::Base, c_.session.photo() ? ViewId::Photo : ViewId::Source};
}

std::vector<ViewId> MarkStation::offered() {
    std::vector<ViewId> out{ViewId::Base, ViewId::Source};
    if (c_.session.photo()) out.push_back(ViewId::Photo);
    return out;
}

// All of a figure whose body is marked.
Framing MarkStation::home() {
    return c_.session.state().asked == PointSet::Body ? home_of_source(c_) : StationPage::home();
}

Pane MarkStation::pane(ViewId which) {
    Pane out = StationPage::pane(which);
    out.loupe = loupe_;
    if (which == ViewId::Source) out.prompt = prompt();
    return out;
}

void MarkStation::clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers) {
    if (!c_.mark.joints().selected().empty()) return c_.mark.joints().deselect();
    which == ViewId::Base ? c_.mark.click_base(ray) : c_.mark.click_source(ray);
}

void MarkStation::marker_pressed(ViewId, const std::string& name, Qt::KeyboardModifiers keys) {
    Session& s = c_.session;
    std::string curve;
    pressed_marker_ = true;
    if (c_.mark.joints().press(name)) {
    } else if (handle_of(name, curve)) {
        s.select(curve);
    } else if (keys.testFlag(Qt::ControlModifier) && !s.selected().empty() && name != s.selected()) {
        std::set<std::string> also = s.also_selected();
        if (!also.erase(name)) also.insert(name);
        s.select_also(also);
    } else if (!s.also_selected().contains(name)) {
        s.select(name);
    }
    pressed_marker_ = false;
}

void MarkStation::marker_dragged(ViewId which, const std::string& name, const Ray& ray) {
    if (!c_.mark.joints().selected().empty()) return c_.mark.joints().drag(ray);
    which == ViewId::Base ? c_.mark.drag_base(name, ray) : c_.mark.drag_source(name, ray);
}
void MarkStation::marker_released(ViewId) {
    c_.mark.joints().selected().empty() ? c_.mark.end_drag() : c_.mark.joints().release();
}
void MarkStation::photo_clicked(const QPointF& pixel, double) { c_.mark.click_photo(pixel); }
void MarkStation::photo_marker_dragged(const std::string& name, const QPointF& pixel) {
    c_.mark.drag_photo(name, pixel);
}

bool MarkStation::arrow_pressed(int right, int up, Qt::KeyboardModifiers keys) {
    if (c_.session.selected().empty()) return false;
    const double step = keys.testFlag(Qt::ShiftModifier) ? kFineNudgeMm : kNudgeMm;
    const Camera& camera = c_.views.active_camera().camera();
    if (c_.session.photo()) {
        c_.mark.nudge_photo(right * 2 * step, -up * 2 * step);
    } else if (!keys.testFlag(Qt::ControlModifier)) {
        c_.mark.nudge_selected(camera, right * step, up * step);
    } else {
        if (right) c_.mark.turn_selected(camera, right * 2 * step);
        if (up) c_.mark.size_selected(1 + 0.02 * up * step);
    }
    return true;
}

}  // namespace veld
