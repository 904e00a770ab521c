// The photo controller's share by hand: sliders of the shape space, dragged places, two people as one.
#include "app/stations/fit/photo_controller.h"
#include "core/landmark/surface_pick.h"
#include "core/project/fits.h"
#include "core/project/layered_skins.h"
#include "core/project/records/photo_record.h"
#include "core/spatial/surface_query.h"

namespace veld {

std::vector<std::string> PhotoController::slider_regions() const {
    return space_ && space_->kit == s_.state().kit ? space_->sliders->regions() : std::vector<std::string>();
}

double PhotoController::slider(const std::string& region, HandMove move) const {
    if (!fit()) return 0;
    for (const HandSetting& s : fit()->photo->hand.settings) {
        if (s.region == region && s.move == move) return s.mm;
    }
    return 0;
}

void PhotoController::set_slider(const std::string& region, HandMove move, double mm) {
    if (!fit() || !space_ || slider(region, move) == mm) return;
    ProjectState next = s_.state();
    HandShape hand = fit()->photo->hand;
    std::erase_if(hand.settings, [&](const HandSetting& s) { return s.region == region && s.move == move; });
    hand.settings.push_back({region, move, mm});
    set_hand(*next.kit, *space_->sliders, *next.current()->fit(), hand);
    s_.change(tr("%1 %2").arg(QString::fromStdString(region), QString(hand_move_name(move))), std::move(next),
              "photo slider " + region + hand_move_name(move));
}

bool PhotoController::keeps(int photo) const {
    if (!fit()) return false;
    const auto& keeps = fit()->photo->hand.keeps;
    return std::find(keeps.begin(), keeps.end(), photo) != keeps.end();
}

void PhotoController::set_keeps(int photo, bool on) {
    if (!fit() || !space_ || keeps(photo) == on) return;
    ProjectState next = s_.state();
    HandShape hand = fit()->photo->hand;
    std::erase(hand.keeps, photo);
    if (on) hand.keeps.push_back(photo);
    set_hand(*next.kit, *space_->sliders, *next.current()->fit(), hand);
    s_.change(on ? tr("Lock a photograph") : tr("Unlock a photograph"), std::move(next));
}

void PhotoController::set_placing(bool on) {
    if (placing_ == on) return;
    placing_ = on && fit() && through_;
    emit changed();
}

void PhotoController::begin_place(const Ray& ray) {
    const auto k = known();
    if (!fit() || !camera(photo_)) return;
    const auto space = space_for(fit()->photo->settings);
    if (!k || !space)
        return emit s_.noticed(
            tr("Press Refine once: the photographs have to be analysed again before places can be dragged."));
    if (static_cast<Eigen::Index>(fit()->photo->z.size()) != space->space.count())
        return emit s_.noticed(tr("The bank's heads changed since this head was made. Press Refine once, then drag."));
    const SurfaceQuery query(*fit()->positions, s_.state().kit->triangulation.triangles);
    const SurfaceHit hit = query.first_front_hit(ray.origin, ray.direction);
    if (!hit) return;
    PhotoPlace dragged;
    dragged.photo = photo_;
    dragged.place.vertices = s_.state().kit->triangulation.triangles[hit.triangle];
    dragged.place.face = s_.state().kit->triangulation.triangle_face[hit.triangle];
    dragged.place.weights = hit.barycentric;
    if (space->space.slot[dragged.place.vertices[0]] == kNone)
        return emit s_.noticed(tr("Below the neck band nothing is shaped from photographs."));
    place_ = dragged;
    PhotoHead like;
    like.z =
        Eigen::Map<const Eigen::VectorXd>(fit()->photo->z.data(), static_cast<Eigen::Index>(fit()->photo->z.size()));
    like.photos = fit()->photo->photos;
    drag_ = std::make_unique<PinDrag>(photo_input(s_.state(), *set(), *k, *space, fit()->photo->settings), like);
    drag_on_ = fit()->id, drag_shape_ = fit()->photo->solved, drag_space_ = space;
}

void PhotoController::move_place(const Ray& ray) {
    if (!drag_ || !place_ || !fit() || !camera(photo_)) return;
    place_->pixel = camera(photo_)->project(ray.origin + 1000 * ray.direction);
    const Eigen::VectorXd z = drag_->pull(place_->place, *camera(photo_), place_->pixel);
    // what the pull changes, on top of everything that hands did before
    const Points& base = s_.state().kit->mesh.positions;
    const Eigen::VectorXd before =
        Eigen::Map<const Eigen::VectorXd>(fit()->photo->z.data(), static_cast<Eigen::Index>(fit()->photo->z.size()));
    const ShapeSpace& space = drag_space_->space;
    const Points now = space.shape(base, z - before);
    dragged_ = std::make_shared<Points>(*fit()->photo->solved);
    for (const Index v : space.vertex) (*dragged_)[v] += now[v] - base[v];
    auto shown = std::make_shared<Points>(*fit()->positions);
    for (const Index v : space.vertex) (*shown)[v] += now[v] - base[v];
    emit live(shown);
}

void PhotoController::end_place() {
    if (!drag_ || !place_ || !dragged_ || !fit()) {
        drag_.reset(), place_.reset(), dragged_.reset();
        return;
    }
    const Eigen::VectorXd z = drag_->pull(place_->place, *camera(photo_), place_->pixel);
    place_parts(*s_.state().kit, PartsChoice::Follow, *dragged_);
    ProjectState next = s_.state();
    FitRecord& record = *next.current()->fit();
    auto photo = std::make_shared<PhotoRecord>(*record.photo);
    photo->z.assign(z.data(), z.data() + z.size());
    photo->settings.places.push_back(*place_);
    record.photo = photo;
    set_solved(*next.kit, *drag_space_->sliders, record, dragged_);
    drag_.reset(), place_.reset(), dragged_.reset();
    emit live_ended();
    s_.change(tr("Drag a place in a photograph"), std::move(next));
}

void PhotoController::drop_pins() {
    if (!fit() || fit()->photo->settings.places.empty()) return;
    ProjectState next = s_.state();
    auto photo = std::make_shared<PhotoRecord>(*fit()->photo);
    photo->settings.places.clear();
    next.current()->fit()->photo = photo;
    s_.change(tr("Remove dragged places"), std::move(next));
    make(true);
}

std::vector<PhotoController::Person> PhotoController::others() const {
    std::vector<Person> out;
    for (const Subject& subject : s_.state().subjects) {
        if (subject.id == s_.subject() || (!subject.fit() && subject.photo_sets.empty())) continue;
        out.push_back({subject.id, QString::fromStdString(subject.name), subject.fit() != nullptr});
    }
    return out;
}

void PhotoController::show_blend(SubjectId other, double share) {
    const FitRecord* mine = s_.state().fit();
    const Subject* subject = find_subject(s_.state(), other);
    if (!mine || !subject || !subject->fit()) return;
    const BaseKit& kit = *s_.state().kit;
    emit live(
        std::make_shared<Points>(blend_people(kit, rest_shape(kit, *mine), rest_shape(kit, *subject->fit()), share)));
}

void PhotoController::keep_blend(SubjectId other, double share, bool skins) {
    const Subject* subject = find_subject(s_.state(), other);
    if (!s_.state().fit() || !subject || making()) return;
    PhotoTask task;
    task.kind = PhotoTask::Kind::Blend, task.other = other, task.share = share, task.skins = skins;
    if (!subject->fit() && !subject->photo_sets.empty()) task.set = subject->photo_sets.back().id;  // made first
    task.from = s_.state().fit()->id;
    start(std::move(task));
}

void PhotoController::finish_blend(const PhotoTask& task, PhotoOutcome& outcome) {
    // whoever is worked on by now: the blend belongs to whom it was asked for
    ProjectState next = s_.state();
    Subject *mine_subject = find_subject(next, task.subject), *other = find_subject(next, task.other);
    const FitRecord* mine = find_fit(next, task.from);
    if (!mine_subject || !other || !mine)
        return emit s_.noticed(tr("One of the two heads is gone; nothing was blended."));
    if (outcome.other_fit && !other->fit()) add_fit(*other, FitRecord(*outcome.other_fit));
    const FitRecord* theirs = other->fit();
    if (!theirs) return emit s_.noticed(tr("One of the two heads is gone; nothing was blended."));
    const QString name = QString::fromStdString(other->name);
    add_fit(*mine_subject, blend_fits(*next.kit, *mine, *theirs, task.share, fit_names(*mine_subject)));
    if (outcome.skin) add_skin(next, task.subject, *outcome.skin);
    s_.change(tr("Blend with %1").arg(name), std::move(next));
}

}  // namespace veld
