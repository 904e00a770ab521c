#include "app/stations/fit/photo_controller.h"

#include "core/project/fits.h"
#include "core/project/records/photo_record.h"

namespace veld {
namespace {
constexpr std::size_t kKeptPictures = 12, kKeptSets = 4;
constexpr std::size_t kPhotoBytes = std::size_t{1} << 30;  // what a solve may take
}  // namespace

PhotoController::PhotoController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::project_changed, this, [this] {
        drag_.reset(), place_.reset(), dragged_.reset();
        wanted_lens_.reset(), running_lens_.reset(), shown_lens_.reset();
        lens_cameras_.clear();
        through_ = placing_ = false;
        drawn_.clear();
        photo_ = 0;
    });
    connect(&s_, &Session::changed, this, [this] {
        // undone, or another subject: what the hand holds belongs to a fit that is not there any more
        if (drag_ && (!fit() || fit()->id != drag_on_ || fit()->photo->solved != drag_shape_)) {
            drag_.reset(), place_.reset(), dragged_.reset();
            emit live_ended();
        }
        if (wanted_lens_ && !lens_is_for_this()) let_lens_go();
        photo_ = set() ? std::clamp(photo_, 0, static_cast<int>(set()->photos->size()) - 1) : 0;
        emit changed();
    });
}

const PhotoSet* PhotoController::set() const {
    const Subject* subject = s_.state().current();
    if (!subject || !s_.has_kit()) return nullptr;
    if (const FitRecord* f = s_.state().fit(); f && f->photo) {
        if (const PhotoSet* of = photo_set_of(*subject, *f)) return of;
    }
    return subject->photo_sets.empty() || !subject->photo_sets.back().photos ||
                   subject->photo_sets.back().photos->empty()
               ? nullptr
               : &subject->photo_sets.back();
}

const FitRecord* PhotoController::fit() const {
    const FitRecord* f = s_.state().fit();
    return f && f->photo && set() && f->photo_set_id == set()->id ? f : nullptr;
}

void PhotoController::select_photo(int i) {
    if (photo_ != i) drawn_.clear();
    photo_ = i;
    emit changed();
}

void PhotoController::look_through(bool on) {
    if (through_ == on) return;
    through_ = on;
    if (!on && placing_) placing_ = false;
    emit changed();
}

void PhotoController::set_opacities(double now_behind, double now_over) {
    behind = now_behind, over = now_over;
    emit changed();
}

const PhotoCamera* PhotoController::camera(int i) const {
    const auto at = static_cast<std::size_t>(i);
    if (wanted_lens_ && at < lens_cameras_.size() && lens_cameras_[at].width > 0) return &lens_cameras_[at];
    const FitRecord* f = fit();
    return f && at < f->photo->photos.size() && f->photo->photos[at].camera ? &*f->photo->photos[at].camera : nullptr;
}

QImage PhotoController::picture(int i) {
    if (!set() || i < 0 || i >= static_cast<int>(set()->photos->size())) return {};
    const auto at = static_cast<std::size_t>(i);
    for (const Picture& known : pictures_) {
        if (known.of == set()->photos && known.photo == at) return known.image;
    }
    if (pictures_.size() >= kKeptPictures) pictures_.erase(pictures_.begin());
    QImage out;
    if (const auto photo = decode_photo((*set()->photos)[at]))
        out = QImage(photo->pixels.rgba.data(), photo->pixels.width, photo->pixels.height, 4 * photo->pixels.width,
                     QImage::Format_RGBA8888)
                  .copy();
    pictures_.push_back({set()->photos, at, out});
    return out;
}

std::shared_ptr<KnownPhotos> PhotoController::known() const {
    for (const auto& k : known_) {
        if (set() && k->photos == set()->photos) return k;
    }
    return nullptr;
}

const LookedAt* PhotoController::looked_at(int i) const {
    const auto k = known();
    return k && i >= 0 && i < static_cast<int>(k->looked.size()) ? &k->looked[static_cast<std::size_t>(i)] : nullptr;
}

PhotoHeadSettings PhotoController::settings() const {
    return set() ? photo_settings(s_.state(), *set()) : PhotoHeadSettings{};
}

void PhotoController::edit(const QString& label, const std::function<void(PhotoHeadSettings&)>& change,
                           const std::string& merge) {
    if (!set()) return;
    ProjectState next = s_.state();
    PhotoHeadSettings now = settings();
    const PhotoHeadSettings before = now;
    change(now);
    if (now == before) return;
    find_photo_set(next, set()->id)->settings = std::make_shared<const PhotoHeadSettings>(std::move(now));
    s_.change(label, std::move(next), merge);
}

std::shared_ptr<const HeadSpace> PhotoController::space_for(const PhotoHeadSettings& settings) const {
    const bool same = space_ && space_->kit == s_.state().kit &&
                      space_->heads == morphs_named(s_.state(), settings.heads) &&
                      space_->neck_band_mm == settings.neck_band_mm;
    return same ? space_ : nullptr;
}

void PhotoController::start(PhotoTask task) {
    const bool blend = task.kind == PhotoTask::Kind::Blend;
    if ((!set() && !blend) || s_.refuse_while_busy()) return;
    task.state = s_.state();
    task.subject = s_.subject();
    if (!blend) {
        task.set = set()->id, task.known = known(), task.faces = faces_[task.set];
        task.space = space_for(task.settings);
        if (fit()) task.from = fit()->id, task.from_shape = fit()->positions;
    }
    static const QString kTitles[] = {tr("Analysing the photographs"), tr("A head from photographs"), tr("Blend")};
    JobInfo info{JobKind::Photos, kTitles[static_cast<int>(task.kind)], task.subject};
    info.memory_bytes = kPhotoBytes;
    info.live = [this, of = task.subject](const std::shared_ptr<Points>& x) {
        if (of == s_.subject()) emit live(x);
    };
    s_.jobs().start<PhotoOutcome>(
        std::move(info), [task](const Progress& progress) { return do_photo_task(task, progress); },
        [this, task](Result<PhotoOutcome>&& outcome) { finish(task, std::move(outcome)); });
    emit changed();
}

void PhotoController::finish(const PhotoTask& task, Result<PhotoOutcome>&& outcome) {
    emit live_ended();
    if (!outcome) {
        s_.say_why_not(outcome.error());
        return emit changed();
    }
    if (task.kind != PhotoTask::Kind::Blend) {
        const bool news = outcome->known && std::none_of(known_.begin(), known_.end(), [&](const auto& k) {
                              return k->photos == outcome->known->photos;
                          });
        if (news && known_.size() >= kKeptSets) known_.erase(known_.begin());
        if (news) known_.push_back(outcome->known);
        if (outcome->space) space_ = outcome->space;
    }
    switch (task.kind) {
        case PhotoTask::Kind::Look:
            (void)asked_for_a_face(task, *outcome->known);
            break;
        case PhotoTask::Kind::Make:
            finish_make(task, *outcome);
            break;
        case PhotoTask::Kind::Blend:
            finish_blend(task, *outcome);
            break;
    }
    emit changed();
}

void PhotoController::look() {
    if (!set() || making() || s_.busy() || (known() && (!fit() || space_for(fit()->photo->settings)))) return;
    PhotoTask task;
    task.kind = PhotoTask::Kind::Look;
    if (fit()) task.settings = fit()->photo->settings;  // what the sliders need
    start(std::move(task));
}

// One question at a time, and only about what is worked on: the answer starts another look.
bool PhotoController::asked_for_a_face(const PhotoTask& task, const KnownPhotos& known) {
    for (std::size_t i = 0; i < known.looked.size(); ++i) {
        if (!known.looked[i].which_face || !set() || set()->id != task.set) continue;
        // asked when this result has been taken in: a dialog runs its own events
        QMetaObject::invokeMethod(
            this,
            [this, set = task.set, photo = static_cast<int>(i),
             faces = static_cast<int>(known.looked[i].found->faces.size())] { emit ask_face(set, photo, faces); },
            Qt::QueuedConnection);
        return true;
    }
    return false;
}

void PhotoController::select_face(PhotoSetId id, int photo, int which) {
    ProjectState next = s_.state();
    PhotoSet* of = find_photo_set(next, id);
    if (!of || photo < 0 || photo >= static_cast<int>(of->photos->size())) return;
    auto& faces = faces_[id];
    faces.resize(std::max(faces.size(), of->photos->size()), -1);
    faces[static_cast<std::size_t>(photo)] = which;
    std::erase_if(known_, [&](const auto& k) { return k->photos == of->photos; });
    if (static_cast<std::size_t>(photo) < of->marks.size() &&
        !of->marks[static_cast<std::size_t>(photo)].points.empty()) {
        PhotoMarks& marks = of->marks[static_cast<std::size_t>(photo)];  // of another face
        std::erase_if(marks.points, [&](const auto& p) { return !kept_by_hand(marks.trust_of(p.first)); });
        std::erase_if(marks.curves, [&](const auto& p) { return !kept_by_hand(marks.trust_of(p.first)); });
        s_.change(tr("Another face"), std::move(next));
    }
    if (set() && set()->id == id) look();
}

void PhotoController::make(bool go_on) {
    if (!set() || making()) return;
    PhotoTask task;
    task.kind = PhotoTask::Kind::Make;
    task.settings = settings();
    task.go_on = go_on && fit();
    if (task.go_on) task.settings.places = fit()->photo->settings.places;
    start(std::move(task));
}

void PhotoController::finish_make(const PhotoTask& task, PhotoOutcome& outcome) {
    if (asked_for_a_face(task, *outcome.known)) return;
    ProjectState next = s_.state();
    // whoever is worked on by now: the head belongs to whom it was made for
    PhotoSet* of = find_photo_set(next, task.set);
    Subject* subject = subject_of(next, task.set);
    if (!of || !subject || subject->id != task.subject)
        return emit s_.noticed(tr("The photographs are gone; the head made from them was not kept."));
    of->marks.resize(of->photos->size());
    for (std::size_t i = 0; i < of->marks.size() && i < outcome.known->looked.size(); ++i) {
        if (of->marks[i].points.empty()) of->marks[i] = outcome.known->looked[i].marks;
    }
    const FitRecord* last = subject->fit();
    if (last && (!last->photo || last->photo_set_id != task.set)) last = nullptr;
    const HandShape hand = last ? last->photo->hand : HandShape{};
    FitRecord record = make_photo_record(*next.kit, std::move(*outcome.fit), *of, task.settings, fit_names(*subject),
                                         hand, last ? last->touch : nullptr, outcome.space->sliders.get());
    const bool first = !last, here = subject->id == s_.subject();
    const QString name = QString::fromStdString(subject->name);
    add_fit(*subject, std::move(record));
    s_.change(task.go_on ? tr("Refine with the photographs") : tr("Make a head from photographs"), std::move(next));
    if (first && here) through_ = true;  // what one wants to see then
    if (!here) emit s_.noticed(tr("The head of %1 is done.").arg(name));
}

}  // namespace veld
