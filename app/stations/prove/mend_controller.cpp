#include "app/stations/prove/mend_controller.h"

#include <cmath>

#include "app/core_words.h"
#include "core/base/plane.h"
#include "core/project/bank.h"

namespace veld {

MendController::MendController(Session& session, ProveController& prove, QObject* parent)
    : QObject(parent), s_(session), prove_(prove) {
    brush.brush = Brush::Smooth;
    connect(&s_, &Session::project_changed, this, [this] {
        mending_ = 0, said_.clear();
        stroke_.reset(), touch_.reset(), kit_.reset();
    });
    // another shape or proof under the hand: there is nothing left that the stroke could go onto
    connect(&prove_, &ProveController::changed, this, [this] {
        if (stroke_ && stroke_->bench != prove_.bench()) stroke_.reset();
        emit changed();
    });
}

void MendController::mend(Mend what) {
    if (!can_mend()) return;
    prove_.play(false);
    const auto bench = prove_.bench();
    const ProofStop stop = prove_.now();
    const QString label = core_word(mend_plain(what));
    said_.clear();
    mending_ = s_.jobs().start<Mending>(
        {JobKind::Check, label, {}},
        [bench, stop, skinning = prove_.skinning(), what](const Progress& progress) {
            return veld::mend(*bench, stop, skinning, what, progress);
        },
        [this, bench, stop, label, what](Result<Mending>&& done) {
            mending_ = 0;
            if (!done && done.error().code != ErrorCode::Cancelled)
                said_ = QString::fromStdString(done.error().message);
            else if (done && bench != prove_.bench())
                said_ = tr("The shape has changed meanwhile; nothing was kept.");
            else if (done && keep(label, *bench, stop, done->ways))
                said_ = what == Mend::ShutLids ? tr("Lids stayed open by %1 mm, now by %2 mm.")
                                                     .arg(done->gap_before, 0, 'f', 2)
                                                     .arg(done->gap_after, 0, 'f', 2)
                                               : tr("Cuts: %1 before, %2 now.").arg(done->before).arg(done->after);
            emit changed();
        });
    emit changed();
}

void MendController::reduce(const std::string& region, double share) {
    if (!can_mend()) return;
    const auto bench = prove_.bench();
    const BaseKit& kit = *s_.state().kit;
    const Points ways = reduced_ways(kit, bench->shape.rest(), region_weights(kit, region), share);
    auto made =
        bench->shape.heads().empty()
            ? Result<std::vector<Morph>>(Error{ErrorCode::BadInput, "The base itself has nothing to be reduced."})
            : corrections_of(bench->shape, {}, ways, (prove_.shape_name() + ", " + tr("reduced")).toStdString());
    if (!made) {
        said_ = QString::fromStdString(made.error().message);
        emit changed();
        return;
    }
    ProjectState next = s_.state();
    for (Morph& m : *made) add_morph(next, std::move(m), 1);
    said_ = tr("The shape has less of itself there; the correction is in the bank.");
    s_.change(tr("Reduce the shape"), std::move(next));
}

// One correction for each shape, proof and joint; what is done there again goes into it.
bool MendController::keep(const QString& label, const ProofBench& bench, const ProofStop& stop, const Points& ways) {
    const std::string name = prove_.shape_name().toStdString() + ", " + prove_.selected();
    auto made = corrections_of(bench.shape, stop, ways, name);
    if (!made) {
        said_ = QString::fromStdString(made.error().message);
        return false;
    }
    ProjectState next = s_.state();
    for (Morph& m : *made) {
        const int at = find_morph(next, m.name);
        BankEntry* entry = at < 0 ? nullptr : &next.bank[static_cast<std::size_t>(at)];
        if (entry && entry->morph->kind == MorphKind::Fix) {
            if (auto more = corrected_further(bench.shape, stop, *entry->morph, m)) {
                entry->morph = std::make_shared<const Morph>(std::move(*more));
                continue;
            }
        }
        m.origin = "Proof '" + prove_.selected() + "' of " + prove_.shape_name().toStdString();
        add_morph(next, std::move(m), 1);
    }
    s_.change(label, std::move(next));
    return true;
}

void MendController::set_brush(Brush kind) {
    brush.brush = kind;
    emit changed();
}

void MendController::set_size(double mm) {
    brush.radius_mm = std::clamp(mm, 0.5, 200.0);
    emit changed();
}

void MendController::set_brushing(bool on) {
    brushing_ = on;
    if (on) prove_.play(false);
    emit changed();
}

void MendController::begin_stroke(const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    if (!brushing_ || !can_mend()) return;
    if (kit_ != s_.state().kit) {
        kit_ = s_.state().kit;
        touch_ = std::make_shared<const TouchBase>(*kit_);
    }
    Stroke stroke{prove_.bench(), prove_.now(), brush, prove_.shape(), {}, {}, {}};
    if (keys.testFlag(Qt::ShiftModifier)) stroke.used.brush = Brush::Smooth;
    stroke.place = touch_place(*touch_, stroke.start, ray.origin, ray.direction);
    if (stroke.place.triangle == kNone) return;
    stroke.now = stroke.start;
    stroke.reached = brush_reach(*touch_, stroke.now, stroke.place, stroke.used, -ray.direction, nullptr);
    stroke_ = std::move(stroke);
    if (stroke_->used.brush != Brush::Grab) touch(pressure);
}

void MendController::touch(double pressure) {
    dab(*touch_, stroke_->reached, stroke_->used, pressure, {}, stroke_->now);
    report();
}

void MendController::report() {
    VertexIndices moved;
    for (const Touched& t : stroke_->reached) {
        moved.push_back(t.vertex);
        if (stroke_->used.mirrored && kit_->mirror[t.vertex] != t.vertex) moved.push_back(kit_->mirror[t.vertex]);
    }
    emit stroked(moved);
}

void MendController::move_stroke(const Ray& ray, double pressure) {
    if (!stroke_) return;
    if (stroke_->used.brush == Brush::Grab) {
        // where the hand is, in the plane through the grabbed place that faces the camera
        const Plane facing = Plane::through(stroke_->place.position, ray.direction);
        const Vec3 drag = facing.meets(ray.origin, ray.direction) - stroke_->place.position;
        grab(*touch_, stroke_->reached, stroke_->start, stroke_->used.strength * 2 * std::min(pressure, 1.0) * drag,
             stroke_->used.mirrored, stroke_->now);
        return report();
    }
    const TouchPlace place = touch_place(*touch_, stroke_->now, ray.origin, ray.direction);
    if (place.triangle == kNone) return;
    stroke_->place = place;
    stroke_->reached = brush_reach(*touch_, stroke_->now, place, stroke_->used, -ray.direction, nullptr);
    touch(pressure);
}

void MendController::end_stroke() {
    if (!stroke_) return;
    const Stroke done = std::move(*stroke_);
    stroke_.reset();
    if (done.bench != prove_.bench()) return;
    const Points ways = taken_back(done.bench->shape, done.stop, prove_.skinning(), done.start, done.now);
    if (keep(tr("By brush: %1").arg(core_word(brush_name(done.used.brush))), *done.bench, done.stop, ways))
        said_ = tr("The stroke is in the bank's correction.");
    emit changed();
}

void MendController::drop_stroke() {
    if (!stroke_) return;
    stroke_.reset();
    emit changed();
}

}  // namespace veld
