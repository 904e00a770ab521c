#include "app/stations/mark/mark_controller.h"

#include <algorithm>

#include "app/core_words.h"
#include "app/lengths.h"
#include "app/prepared_source.h"
#include "core/base/file.h"
#include "core/detect/face_views.h"
#include "core/fit/place.h"
#include "core/landmark/photo_marks.h"
#include "core/landmark/snap.h"
#include "core/landmark/surface_pick.h"

namespace veld {

MarkController::MarkController(Session& session, QObject* parent)
    : QObject(parent), s_(session), joints_(new JointController(session, this)) {
    connect(&s_, &Session::selection_changed, this, [this] {
        if (draft_of_ != s_.selected()) draft_.clear(), draft_of_.clear();
    });
    // places on another base mean nothing here
    connect(&s_, &Session::project_changed, this, [this] {
        draft_.clear(), draft_of_.clear();
        dragged_handles_.reset(), own_curve_.reset();
    });
}

const std::vector<std::string>& MarkController::order() const {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> out = minimal_points();
        for (const bool core : {true, false}) {
            for (const SchemePoint& p : landmark_scheme().points) {
                const bool known = std::find(out.begin(), out.end(), p.name) != out.end();
                if (p.core == core && !known) out.push_back(p.name);
            }
        }
        return out;
    }();
    return names;
}

// What is marked is listed, whatever else is.
bool MarkController::possible(const std::string& name) const {
    if (marked(name)) return true;
    if (s_.photo()) return name != kInnerLips[0] && name != kInnerLips[1];
    const Source* source = s_.state().source();
    return !source || can_be_marked(name, source->landmarks);
}

std::vector<std::string> MarkController::known_points() const {
    std::vector<std::string> out;
    const PointSet asked = s_.state().asked;
    for (const std::string& name : order()) {
        if (s_.state().base_points.contains(name) && in_point_set(name, asked) && possible(name)) out.push_back(name);
    }
    for (const auto& [name, p] : s_.state().base_points) {
        if (!landmark_scheme().point(name)) out.push_back(name);
    }
    return out;
}

std::vector<std::string> MarkController::known_curves() const {
    std::vector<std::string> out;
    for (const SchemeCurve& c : landmark_scheme().curves) {
        const bool asked = s_.state().base_curves.contains(c.name) && in_point_set(c.name, s_.state().asked);
        if (asked && possible(c.name)) out.push_back(c.name);
    }
    for (const auto& [name, line] : s_.state().base_curves) {
        if (!landmark_scheme().curve(name)) out.push_back(name);
    }
    return out;
}

bool MarkController::marked(const std::string& name) const {
    if (s_.photo()) {
        const PhotoMarks marks = s_.photo_marks();
        return marks.points.contains(name) || marks.curves.contains(name);
    }
    const Source* source = s_.state().source();
    return source && (source->landmarks.points.contains(name) || source->landmarks.curves.contains(name));
}

Trust MarkController::trust_of(const std::string& name) const {
    if (s_.photo()) return s_.photo_marks().trust_of(name);
    const Source* source = s_.state().source();
    return source ? source->landmarks.trust_of(name) : Trust{};
}

bool MarkController::doubted(const std::string& name) const {
    return s_.photo() ? unsure_in_photo(trust_of(name), s_.photo_marks()) : unsure(trust_of(name));
}

void MarkController::ask_for(PointSet set) {
    if (s_.state().asked == set) return;
    ProjectState next = s_.state();
    next.asked = set;
    s_.change(tr("Use the %1 set").arg(point_set_name(set)), std::move(next), "asked set");
}

QString MarkController::plain(const std::string& name) const { return core_word(landmark_scheme().plain(name)); }

bool MarkController::source_hit(const Ray& ray, Vec3& out) const {
    if (!s_.prepared()) return false;
    const Similarity back = s_.source_to_view().inverse();
    const SurfaceHit hit = s_.prepared()->first_hit(back(ray.origin), back.rotation * ray.direction);
    out = hit.position;
    return static_cast<bool>(hit);
}

Vec3 MarkController::snapped(const std::string& name, const Vec3& p) const {
    return snapping ? snap(s_.snap_surface(), snap_rule(name), p, 3.0) : p;
}

Source* MarkController::edited(ProjectState& next) const {
    return next.current() && !next.current()->sources.empty() ? &next.current()->sources.back() : nullptr;
}

void MarkController::set_point(const std::string& name, const Vec3& p, const QString& label, const std::string& merge,
                               Origin origin) {
    ProjectState next = s_.state();
    Source* source = edited(next);
    if (!source) return;
    source->landmarks.points[name] = p;
    Trust& t = source->landmarks.trust[name];
    const bool locked = t.locked;
    t = {}, t.origin = origin, t.locked = locked;
    s_.change(label, std::move(next), merge);
}

void MarkController::click_source(const Ray& ray) {
    Vec3 p;
    if (!source_hit(ray, p)) return;
    if (s_.selected().empty()) select_next_missing();
    const std::string name = s_.selected();
    if (name.empty()) return;
    if (trust_of(name).locked) {
        emit s_.noticed(tr("%1 is locked; unlock it first (Shift+L).").arg(plain(name)));
        return;
    }
    if (is_curve(name)) {
        Points handles = marked(name) ? this->handles() : draft_;
        handles.push_back(p);
        if (handles.size() < 2) {
            draft_ = handles, draft_of_ = name;
            emit s_.selection_changed();
            return;
        }
        return set_curve(name, handles, tr("Draw %1").arg(plain(name)), {});
    }
    set_point(name, snapped(name, p), tr("Mark %1").arg(plain(name)), {});
    select_next_missing();
}

void MarkController::click_base(const Ray& ray) {
    if (!s_.base_query()) return;
    const SurfaceHit hit = s_.base_query()->first_hit(ray.origin, ray.direction);
    if (!hit) return;
    ProjectState next = s_.state();
    const SurfacePoint place = surface_point(next.kit->triangulation, hit);
    if (own_curve_) {
        own_curve_->push_back(place);
        emit s_.selection_changed();
        return;
    }
    std::vector<std::string> taken;
    for (const auto& [name, p] : next.base_points) taken.push_back(name);
    const std::string name = free_name("own point", taken);
    next.base_points[name] = place;
    s_.change(tr("Add %1").arg(QString::fromStdString(name)), std::move(next));
    s_.select(name);
}

void MarkController::drag_source(const std::string& name, const Ray& ray) {
    Vec3 p;
    if (!source_hit(ray, p)) return;
    std::string curve;
    if (const auto handle = handle_of(name, curve)) {
        if (trust_of(curve).locked) return;
        if (!dragged_handles_) dragged_handles_ = handles();
        if (*handle >= dragged_handles_->size()) return;
        (*dragged_handles_)[*handle] = p;
        return set_curve(curve, *dragged_handles_, tr("Shape %1").arg(plain(curve)), "drag curve " + curve);
    }
    if (trust_of(name).locked) return;
    const Source* source = s_.state().source();
    const auto from = source->landmarks.points.find(name);
    if (from != source->landmarks.points.end() && !s_.also_selected().empty() &&
        (name == s_.selected() || s_.also_selected().contains(name))) {
        const Vec3 by = p - from->second;
        return move_selection(tr("Move %n point(s)", nullptr, static_cast<int>(selection().size())), "drag selection",
                              [by](const Vec3& q) { return q + by; });
    }
    set_point(name, p, tr("Move %1").arg(plain(name)), "drag source " + name);
}

void MarkController::drag_base(const std::string& name, const Ray& ray) {
    if (!s_.base_query()) return;
    const SurfaceHit hit = s_.base_query()->first_hit(ray.origin, ray.direction);
    if (!hit) return;
    ProjectState next = s_.state();
    next.base_points[name] = surface_point(next.kit->triangulation, hit);
    s_.change(tr("Move %1 on the base").arg(plain(name)), std::move(next), "drag base " + name);
}

void MarkController::end_drag() {
    // what was dragged near its place snaps onto it when it is let go
    const std::string name = s_.selected();
    const Source* source = s_.state().source();
    if (!s_.photo() && snapping && s_.also_selected().empty() && source && !dragged_handles_ &&
        s_.document().is_merging("drag source " + name)) {
        const auto at = source->landmarks.points.find(name);
        if (at != source->landmarks.points.end())
            set_point(name, snapped(name, at->second), tr("Move %1").arg(plain(name)), "drag source " + name);
    }
    dragged_handles_.reset();
    s_.document().seal();
}

void MarkController::select_next(int step) {
    std::vector<std::string> names = known_points();
    const std::vector<std::string> curves = known_curves();
    names.insert(names.end(), curves.begin(), curves.end());
    if (names.empty()) return;
    const auto at = std::find(names.begin(), names.end(), s_.selected());
    const int count = static_cast<int>(names.size());
    const int from = at == names.end() ? (step > 0 ? -1 : 0) : static_cast<int>(at - names.begin());
    s_.select(names[static_cast<std::size_t>(((from + step) % count + count) % count)]);
}

void MarkController::select_next_missing() {
    if (!s_.photo() && !s_.state().source()) return;
    const std::vector<std::string> names = known_points();
    const auto at = std::find(names.begin(), names.end(), s_.selected());
    const std::size_t first = at == names.end() ? 0 : static_cast<std::size_t>(at - names.begin()) + 1;
    for (std::size_t i = 0; i < names.size(); ++i) {
        const std::string& name = names[(first + i) % names.size()];
        if (!marked(name)) return s_.select(name);
    }
}

std::vector<std::string> MarkController::selection() const {
    std::vector<std::string> out;
    if (!s_.selected().empty()) out.push_back(s_.selected());
    out.insert(out.end(), s_.also_selected().begin(), s_.also_selected().end());
    return out;
}

void MarkController::move_selection(const QString& label, const std::string& merge,
                                    const std::function<Vec3(const Vec3&)>& move) {
    ProjectState next = s_.state();
    Source* source = edited(next);
    const SnapSurface surface = s_.snap_surface();
    if (!source || !surface.query) return;
    bool moved = false;
    for (const std::string& name : selection()) {
        const auto at = source->landmarks.points.find(name);
        if (at == source->landmarks.points.end() || source->landmarks.trust_of(name).locked) continue;
        const SurfaceHit hit = surface.query->closest(move(at->second), 1e12);
        if (!hit) continue;
        at->second = hit.position;
        source->landmarks.trust[name] = {};
        moved = true;
    }
    if (moved) s_.change(label, std::move(next), merge);
}

void MarkController::nudge_selected(const Camera& camera, double right_mm, double up_mm) {
    const SnapSurface surface = s_.snap_surface();
    if (!surface.query || selection().empty()) return;
    const Mat3 back = surface.to_kit.rotation.transpose();
    const Vec3 right = back * camera.right(), up = back * camera.up();
    move_selection(tr("Nudge"), "nudge " + s_.selected(),
                   [&](const Vec3& p) { return nudge(surface, p, right, up, right_mm, up_mm); });
}

// Of several points on the source; nothing for one alone.
std::optional<Vec3> MarkController::middle_of_selection() const {
    const Source* source = s_.state().source();
    if (!source || s_.also_selected().empty()) return {};
    Points places;
    for (const std::string& name : selection()) {
        if (const auto at = source->landmarks.points.find(name); at != source->landmarks.points.end())
            places.push_back(at->second);
    }
    const auto middle = middle_of(places);
    return middle ? std::optional(middle->place) : std::nullopt;
}

void MarkController::turn_selected(const Camera& camera, double degrees) {
    const auto middle = middle_of_selection();
    if (!middle) return;
    const Mat3 turn =
        Eigen::AngleAxisd(degrees * M_PI / 180, s_.source_to_view().rotation.transpose() * -camera.forward())
            .toRotationMatrix();
    move_selection(tr("Turn %n point(s)", nullptr, static_cast<int>(selection().size())), "turn selection",
                   [&](const Vec3& p) -> Vec3 { return *middle + turn * (p - *middle); });
}

void MarkController::size_selected(double factor) {
    const auto middle = middle_of_selection();
    if (middle)
        move_selection(tr("Spread %n point(s)", nullptr, static_cast<int>(selection().size())), "size selection",
                       [&](const Vec3& p) -> Vec3 { return *middle + factor * (p - *middle); });
}

void MarkController::snap_selected() {
    const std::string name = s_.selected();
    const Source* source = s_.state().source();
    const SnapRule rule = snap_rule(name);
    if (!source || s_.photo() || !source->landmarks.points.contains(name)) return;
    if (rule.kind == SnapKind::None) {
        emit s_.noticed(tr("The definition of %1 names no feature to snap to.").arg(plain(name)));
        return;
    }
    const Vec3 at = source->landmarks.points.at(name), better = snap(s_.snap_surface(), rule, at, 6);
    const double mm = s_.source_to_view().scale * (better - at).norm();
    if (mm > 0) set_point(name, better, tr("Snap %1").arg(plain(name)), {});
    emit s_.noticed(
        tr("%1 snapped to %2, %3 away.").arg(plain(name), QString::fromStdString(rule.says), length_text(mm, 1)));
}

std::map<std::string, double> MarkController::residuals() const {
    std::map<std::string, double> out;
    const Source* source = s_.state().source();
    if (!source || source->landmarks.points.size() < 3) return out;
    const ProjectState& state = s_.state();
    for (const auto& [name, p] : source->landmarks.points) {
        const auto at = state.base_points.find(name);
        if (at != state.base_points.end())
            out[name] = (s_.source_to_view()(p) - at->second.at(state.kit->mesh.positions)).norm();
    }
    return out;
}

}  // namespace veld
