#include "app/stations/touch/touch_controller.h"

#include <cmath>

#include "app/core_words.h"
#include "core/base/plane.h"
#include "core/mesh/soft_region.h"
#include "core/project/fits.h"

namespace veld {
namespace {

constexpr double kSoftMm = 6;         // how far a region's mask fades
constexpr int kMeasureAfterMs = 500;  // of rest

}  // namespace

TouchController::TouchController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::fit_cache_ready, this, &TouchController::changed);
    measure_timer_.setSingleShot(true);
    measure_timer_.setInterval(kMeasureAfterMs);
    connect(&measure_timer_, &QTimer::timeout, &s_, &Session::start_measure);
    connect(&s_, &Session::project_changed, this, [this] {
        stroking_ = false;
        base_.reset(), base_kit_.reset();
        only_in_.clear(), mask_.clear();
    });
    connect(&s_, &Session::changed, this, [this] {
        // undone or removed under the hand: there is nothing left that the stroke could go onto
        if (stroking_ && (!s_.state().fit() || s_.state().fit()->positions != stroke_on_)) stroking_ = false;
        // undone, redone or touched: whatever is shown gets figures of its own
        if (s_.state().fit() && s_.state().fit()->figures_old && !stroking_) measure_timer_.start();
    });
}

void TouchController::set_brush(Brush kind) {
    brush.brush = kind;
    emit changed();
}

void TouchController::set_size(double mm) {
    brush.radius_mm = std::clamp(mm, 0.5, 200.0);
    emit changed();
}

void TouchController::set_only_in(const std::set<std::string>& regions) {
    only_in_ = regions;
    mask_.clear();
    if (base_ && !only_in_.empty()) {
        VertexIndices vertices;
        for (const std::string& name : only_in_)
            vertices.insert(vertices.end(), s_.state().kit->region(name).begin(), s_.state().kit->region(name).end());
        mask_ = soft_region(s_.state().kit->mesh.positions, base_->ways, vertices, kSoftMm);
    }
    emit changed();
}

void TouchController::enter() {
    if (!s_.has_kit()) return;
    if (base_kit_ != s_.state().kit) {
        base_kit_ = s_.state().kit;
        base_ = std::make_shared<TouchBase>(*base_kit_);
        set_only_in({});
    }
    s_.prepare_fit_cache();
}

QString TouchController::why_not() const {
    const FitRecord* fit = s_.state().fit();
    if (!fit) return tr("There is no fit to touch up yet: make one in the Fit station.");
    if (s_.fitting()) return tr("A fit is running.");
    if (fit->touch && fit->touch->strength() == 0)
        return tr("The touch-up is off or at 0 %: switch it on to continue.");
    return {};
}

void TouchController::begin_stroke(const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    enter();
    if (const QString why = why_not(); !why.isEmpty()) {
        emit s_.noticed(why);
        return;
    }
    used_ = brush;
    if (keys.testFlag(Qt::ShiftModifier)) used_.brush = Brush::Smooth;
    if (used_.brush == Brush::PullToSource && !s_.fit_surface()) {
        const auto of = measuring_of(s_.state());
        emit s_.noticed(of && of->source.mesh ? tr("The source is being prepared; try again in a moment.")
                                              : tr("This fit has no source to be pulled to."));
        return;
    }
    stroke_on_ = s_.state().fit()->positions;
    now_ = *stroke_on_;
    place_ = touch_place(*base_, now_, ray.origin, ray.direction);
    if (place_.triangle == kNone) return;
    start_ = now_;
    ray_ = ray;
    last_pressure_ = pressure;
    stroking_ = true;
    measure_timer_.stop();
    reached_ = brush_reach(*base_, now_, place_, used_, -ray.direction, mask_.empty() ? nullptr : &mask_);
    if (used_.brush != Brush::Grab) apply(pressure);
}

void TouchController::apply(double pressure) {
    const auto source = s_.fit_surface();
    dab(*base_, reached_, used_, pressure, {source.get()}, now_);
    report_moved(reached_);
}

void TouchController::move_stroke(const Ray& ray, double pressure) {
    if (!stroking_) return;
    last_pressure_ = pressure;
    if (used_.brush == Brush::Grab) {
        // where the hand is, in the plane through the grabbed place that faces the camera
        const Plane facing = Plane::through(place_.position, ray_.direction);
        const Vec3 drag = facing.meets(ray.origin, ray.direction) - place_.position;
        grab(*base_, reached_, start_, used_.strength * 2 * std::min(pressure, 1.0) * drag, used_.mirrored, now_);
        return report_moved(reached_);
    }
    const TouchPlace place = touch_place(*base_, now_, ray.origin, ray.direction);
    if (place.triangle == kNone) return;
    place_ = place;
    reached_ = brush_reach(*base_, now_, place_, used_, -ray.direction, mask_.empty() ? nullptr : &mask_);
    apply(pressure);
}

void TouchController::report_moved(const std::vector<Touched>& reached) {
    VertexIndices moved;
    for (const Touched& t : reached) {
        moved.push_back(t.vertex);
        if (used_.mirrored && base_->kit->mirror[t.vertex] != t.vertex) moved.push_back(base_->kit->mirror[t.vertex]);
    }
    const auto source = s_.fit_surface();
    const std::vector<float>& before = *s_.state().fit()->distances;
    distances_.assign(moved.size(), std::numeric_limits<float>::quiet_NaN());
    for (std::size_t i = 0; source && i < moved.size(); ++i) {
        if (std::isnan(before[moved[i]])) continue;  // not compared: covered, hidden
        if (const SurfaceHit hit = source->closest(now_[moved[i]], 20, nullptr))
            distances_[i] = static_cast<float>(hit.distance);
    }
    emit stroked(moved);
}

void TouchController::end_stroke() {
    if (!stroking_) return;
    stroking_ = false;
    const FitRecord& fit = *s_.state().fit();
    const TouchLayer like = fit.touch ? *fit.touch : TouchLayer();
    edit_layer(tr("By brush: %1").arg(core_word(brush_name(used_.brush))),
               touch_between(*s_.state().kit, untouched(fit), now_, like), {});
}

void TouchController::drop_stroke() {
    if (!stroking_) return;
    stroking_ = false;
    emit s_.changed();
}

void TouchController::edit_layer(const QString& label, TouchLayer layer, const std::string& merge_key) {
    ProjectState next = s_.state();
    set_touch(*next.kit, *next.current()->fit(), std::move(layer));
    s_.change(label, std::move(next), merge_key);
}

void TouchController::set_amount(double amount) {
    const FitRecord* fit = s_.state().fit();
    if (!fit || !fit->touch || fit->touch->amount == amount) return;
    TouchLayer layer = *fit->touch;
    layer.amount = amount;
    edit_layer(tr("Scale the touch-up"), std::move(layer), "touch amount");
}

void TouchController::set_on(bool on) {
    const FitRecord* fit = s_.state().fit();
    if (!fit || !fit->touch || fit->touch->on == on) return;
    TouchLayer layer = *fit->touch;
    layer.on = on;
    edit_layer(on ? tr("Touch-up on") : tr("Touch-up off"), std::move(layer), {});
}

void TouchController::wipe(const std::string& region) {
    const FitRecord* fit = s_.state().fit();
    if (!fit || !fit->touch) return;
    const VertexIndices& all = fit->touch->vertex;
    TouchLayer layer = wiped(*fit->touch, region.empty() ? all : s_.state().kit->region(region));
    if (layer == *fit->touch) return;
    edit_layer(region.empty() ? tr("Clear touch-up") : tr("Clear touch-up in a region"), std::move(layer), {});
}

int TouchController::touched_vertices() const {
    const FitRecord* fit = s_.state().fit();
    return fit && fit->touch ? static_cast<int>(fit->touch->vertex.size()) : 0;
}

}  // namespace veld
