// Guide curves and their handles; points and curves on photographs.
#include <algorithm>
#include <cmath>

#include "app/stations/mark/mark_controller.h"
#include "core/detect/photo_face.h"
#include "core/landmark/snap.h"
#include "core/landmark/surface_pick.h"
#include "core/project/marks.h"

namespace veld {
namespace {
constexpr int kCurveSamples = 32;
constexpr int kHandles = 6;
}  // namespace

std::string handle_name(const std::string& curve, std::size_t handle) { return curve + "#" + std::to_string(handle); }

std::optional<std::size_t> handle_of(const std::string& marker, std::string& curve) {
    const auto at = marker.rfind('#');
    if (at == std::string::npos) return {};
    curve = marker.substr(0, at);
    return static_cast<std::size_t>(std::strtoul(marker.c_str() + at + 1, nullptr, 10));
}

Points MarkController::handles() const {
    const Source* source = s_.state().source();
    if (dragged_handles_) return *dragged_handles_;
    if (!source || !is_curve(s_.selected())) return {};
    const auto at = source->landmarks.curves.find(s_.selected());
    if (at == source->landmarks.curves.end()) return draft_;
    return handles_of(at->second, kHandles);
}

void MarkController::set_curve(const std::string& name, const Points& handles, const QString& label,
                               const std::string& merge) {
    SnapRule rule = snap_rule(name);
    if (!snapping) rule.kind = SnapKind::None;
    const SnapSurface surface = s_.snap_surface();
    if (!surface.query) return;
    auto line = trace_curve(surface, rule, handles, kCurveSamples);
    if (!line) return;
    ProjectState next = s_.state();
    Source* source = edited(next);
    if (!source) return;
    source->landmarks.curves[name] = std::move(*line);
    const bool locked = source->landmarks.trust_of(name).locked;
    source->landmarks.trust[name] = {}, source->landmarks.trust[name].locked = locked;
    s_.change(label, std::move(next), merge);
}

void MarkController::begin_own_curve() {
    own_curve_.emplace();
    emit s_.selection_changed();
    emit s_.noticed(tr("Click along the new curve on the base; Return ends it."));
}

void MarkController::finish_own_curve() {
    if (!own_curve_) return;
    const std::vector<SurfacePoint> clicked = std::move(*own_curve_);
    own_curve_.reset();
    if (clicked.size() < 2) {
        emit s_.noticed(tr("A curve needs at least two points; nothing was added."));
        emit s_.selection_changed();
        return;
    }
    ProjectState next = s_.state();
    SnapSurface surface;
    surface.query = s_.base_query();
    Points handles;
    for (const SurfacePoint& p : clicked) handles.push_back(p.at(next.kit->mesh.positions));
    const auto line = trace_curve(surface, {}, handles, kCurveSamples);
    std::vector<std::string> taken;
    for (const auto& [name, c] : next.base_curves) taken.push_back(name);
    const std::string name = free_name("own curve", taken);
    for (const Vec3& p : *line) {
        if (const SurfaceHit hit = s_.base_query()->closest(p, 1e12))
            next.base_curves[name].push_back(surface_point(next.kit->triangulation, hit));
    }
    s_.change(tr("Add %1").arg(QString::fromStdString(name)), std::move(next));
    s_.select(name);
}

Status MarkController::rename_own(const std::string& from, const std::string& to) {
    ProjectState next = s_.state();
    if (auto ok = rename_landmark(next, from, to); !ok) return ok;
    s_.change(tr("Rename %1").arg(QString::fromStdString(from)), std::move(next));
    s_.select(to);
    return Done{};
}

Status MarkController::keep_own_in_kit() {
    return write_own_landmarks(*s_.state().kit, s_.state().base_points, s_.state().base_curves);
}

PhotoMarks* MarkController::edited_photo(ProjectState& next) const {
    if (!s_.photo() || !s_.photo_bytes()) return nullptr;
    PhotoSet* set = find_photo_set(next, s_.photo()->set);
    if (!set) return nullptr;
    set->marks.resize(set->photos->size());
    return &set->marks[s_.photo()->photo];
}

void MarkController::set_photo(const std::string& name, const std::function<void(PhotoMarks&)>& edit,
                               const QString& label, const std::string& merge) {
    ProjectState next = s_.state();
    PhotoMarks* marks = edited_photo(next);
    if (!marks) return;
    if (marks->width == 0) {
        const auto photo = decode_photo(*s_.photo_bytes());
        if (!photo) return s_.report(photo.error());
        marks->width = photo->pixels.width, marks->height = photo->pixels.height;
    }
    edit(*marks);
    if (!name.empty() && (marks->points.contains(name) || marks->curves.contains(name))) {
        const bool locked = marks->trust_of(name).locked;
        marks->trust[name] = {}, marks->trust[name].locked = locked;
    }
    s_.change(label, std::move(next), merge);
}

std::vector<QPointF> MarkController::photo_handles() const {
    std::vector<QPointF> out;
    const PhotoMarks marks = s_.photo_marks();
    const auto at = marks.curves.find(s_.selected());
    Points line = draft_;
    if (at != marks.curves.end()) {
        line.clear();
        for (const Vec2& p : at->second) line.emplace_back(p.x(), p.y(), 0);
        line = handles_of(line, kHandles);
    }
    if (dragged_handles_) line = *dragged_handles_;
    for (const Vec3& p : line) out.emplace_back(p.x(), p.y());
    return out;
}

void MarkController::click_photo(const QPointF& at) {
    if (s_.selected().empty()) select_next_missing();
    const std::string name = s_.selected();
    if (name.empty() || trust_of(name).locked) return;
    const Vec2 p(at.x(), at.y());
    if (!is_curve(name)) {
        set_photo(name, [&](PhotoMarks& m) { m.points[name] = p; }, tr("Mark %1").arg(plain(name)), {});
        return select_next_missing();
    }
    if (marked(name)) {
        set_photo(name, [&](PhotoMarks& m) { m.curves[name].push_back(p); }, tr("Draw %1").arg(plain(name)), {});
    } else if (draft_.empty()) {
        draft_ = {Vec3(p.x(), p.y(), 0)}, draft_of_ = name;
        emit s_.selection_changed();
    } else {
        const Vec2 first = draft_[0].head<2>();
        set_photo(name, [&](PhotoMarks& m) { m.curves[name] = {first, p}; }, tr("Draw %1").arg(plain(name)), {});
    }
}

void MarkController::drag_photo(const std::string& marker, const QPointF& at) {
    std::string curve;
    const Vec2 p(at.x(), at.y());
    const auto handle = handle_of(marker, curve);
    if (!handle) {
        if (trust_of(marker).locked) return;
        return set_photo(
            marker, [&](PhotoMarks& m) { m.points[marker] = p; }, tr("Move %1").arg(plain(marker)),
            "drag photo " + marker);
    }
    if (trust_of(curve).locked) return;
    if (!dragged_handles_) {
        dragged_handles_.emplace();
        for (const QPointF& h : photo_handles()) dragged_handles_->emplace_back(h.x(), h.y(), 0);
    }
    if (*handle >= dragged_handles_->size()) return;
    (*dragged_handles_)[*handle] = {p.x(), p.y(), 0};
    set_photo(
        curve,
        [&](PhotoMarks& m) {
            m.curves[curve].clear();
            for (const Vec3& h : *dragged_handles_) m.curves[curve].emplace_back(h.x(), h.y());
        },
        tr("Shape %1").arg(plain(curve)), "drag photo " + curve);
}

void MarkController::nudge_photo(double right_px, double down_px) {
    const std::string name = s_.selected();
    const PhotoMarks marks = s_.photo_marks();
    if (!marks.points.contains(name) || trust_of(name).locked) return;
    set_photo(
        name, [&](PhotoMarks& m) { m.points[name] += Vec2(right_px, down_px); }, tr("Nudge"), "nudge photo " + name);
}

}  // namespace veld
