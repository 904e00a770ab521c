#include "app/stations/fit/photo_controller.h"

#include <QtConcurrentRun>

namespace veld {

namespace {

PhotoSet* set_named(ProjectState& state, std::size_t subject, const std::string& name) {
    if (subject >= state.subjects.size()) return nullptr;
    for (PhotoSet& set : state.subjects[subject].photo_sets) {
        if (set.name == name) return &set;
    }
    return nullptr;
}

}  // namespace

PhotoController::PhotoController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&job_, &QFutureWatcher<void>::finished, this, &PhotoController::finish);
    connect(&lens_job_, &QFutureWatcher<std::shared_ptr<Result<PhotoFit>>>::finished, this, [this] {
        const auto result = lens_job_.result();
        running_lens_.reset();
        if (*result && wanted_lens_) {
            lens_cameras_.clear();
            for (const PhotoFigures& f : (*result)->photos) lens_cameras_.push_back(f.camera.value_or(PhotoCamera{}));
            emit live(std::make_shared<Points>((*result)->positions));
            emit changed();
        }
        run_lens();
    });
    connect(&s_, &Session::changed, this, [this] {
        if (drag_ && (!fit() || fit()->photo->solved == nullptr)) drag_.reset(), pin_.reset();
        photo_ = set() ? std::clamp(photo_, 0, static_cast<int>(set()->photos->size()) - 1) : 0;
        emit changed();
    });
}

PhotoController::~PhotoController() {
    s_.cancel();
    job_.waitForFinished();
    lens_job_.waitForFinished();
}

const PhotoSet* PhotoController::set() const {
    const Subject* subject = s_.state().current();
    if (!subject || !s_.has_kit()) return nullptr;
    if (const FitRecord* f = s_.state().fit(); f && f->photo) {
        if (const PhotoSet* of = photo_set_of(*subject, *f)) return of;
    }
    return subject->photo_sets.empty() || !subject->photo_sets.back().photos || subject->photo_sets.back().photos->empty() ? nullptr : &subject->photo_sets.back();
}

const FitRecord* PhotoController::fit() const {
    const FitRecord* f = s_.state().fit();
    return f && f->photo && set() && f->source == set()->name ? f : nullptr;
}

void PhotoController::choose_photo(int i) {
    if (photo_ != i) drawn_.clear();
    photo_ = i;
    emit changed();
}

void PhotoController::look_through(bool on) {
    if (through_ == on) return;
    through_ = on;
    if (!on && pinning_) pinning_ = false;
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
    const Image& image = (*set()->photos)[static_cast<std::size_t>(i)];
    const auto at = pictures_.find(&image);
    if (at != pictures_.end()) return at->second;
    if (pictures_.size() > 12) pictures_.clear();
    QImage out;
    if (const auto photo = decode_photo(image)) out = QImage(photo->pixels.rgba.data(), photo->pixels.width, photo->pixels.height, 4 * photo->pixels.width, QImage::Format_RGBA8888).copy();
    return pictures_[&image] = out;
}

std::shared_ptr<PhotoController::Known> PhotoController::known() const {
    for (const auto& k : known_) {
        if (set() && k->photos == set()->photos) return k;
    }
    return nullptr;
}

const LookedAt* PhotoController::looked_at(int i) const {
    const auto k = known();
    return k && i >= 0 && i < static_cast<int>(k->looked.size()) ? &k->looked[static_cast<std::size_t>(i)] : nullptr;
}

PhotoFitSettings PhotoController::settings() const { return set() ? photo_settings(s_.state(), *set()) : PhotoFitSettings{}; }

void PhotoController::edit(const QString& label, const std::function<void(PhotoFitSettings&)>& change, const std::string& merge) {
    if (!set()) return;
    ProjectState next = s_.state();
    PhotoFitSettings now = settings();
    const PhotoFitSettings before = now;
    change(now);
    if (now == before) return;
    set_named(next, static_cast<std::size_t>(next.subject), set()->name)->settings = now;
    s_.change(label, std::move(next), merge);
}

std::shared_ptr<const PhotoController::Space> PhotoController::space_for(const PhotoFitSettings& settings) const {
    const bool same = space_ && space_->kit == s_.state().kit && space_->heads == morphs_named(s_.state(), settings.heads) && space_->neck_band_mm == settings.neck_band_mm;
    return same ? space_ : nullptr;
}

PhotoFitInput PhotoController::input_of(const PhotoFitSettings& settings, const Known& known, const Space& space) const {
    PhotoFitInput in;
    const ProjectState& state = s_.state();
    in.kit = space.kit.get(), in.base_points = state.base_points, in.base_curves = state.base_curves;
    in.space = &space.space, in.settings = settings, in.photos = views_of(known.looked);
    if (const PhotoSet* of = set()) {
        for (std::size_t i = 0; i < of->marks.size() && i < in.photos.size(); ++i) {
            if (of->marks[i].width > 0) in.photos[i].marks = of->marks[i];
        }
    }
    return in;
}

void PhotoController::start(std::shared_ptr<Job> job) {
    if (!set() && job->kind != Job::Kind::Blend) return;
    if (!s_.begin_work()) return emit s_.noticed(tr("Wait until the running work is done, or cancel it."));
    job->state = s_.state();
    if (job->kind != Job::Kind::Blend) {
        job->set = set()->name, job->known = known(), job->faces = faces_[job->set];
        job->space = space_for(job->settings);
    }
    now_ = job;
    Progress progress = s_.worker_progress();
    progress.live = [this](const Points& x) {
        auto copy = std::make_shared<Points>(x);
        QMetaObject::invokeMethod(this, [this, copy] { emit live(copy); });
    };
    job_.setFuture(QtConcurrent::run([job, progress] {
        const auto stop = [&](const Error& e) { job->error = e, job->failed = true; };
        const ProjectState& s = job->state;
        const Subject* subject = s.current();
        const PhotoSet* set = nullptr;
        const FitRecord* from = job->go_on ? s.fit() : nullptr;
        if (job->kind == Job::Kind::Blend) {
            subject = &s.subjects[job->other];
            if (subject->fit() || subject->photo_sets.empty()) return;
            set = &subject->photo_sets.back();
            job->settings = photo_settings(s, *set);
        } else {
            for (const PhotoSet& p : subject->photo_sets) {
                if (p.name == job->set) set = &p;
            }
        }
        if (!set) return;
        if (!job->known) {
            LookOptions look;
            look.face = job->faces;
            look.space = job->space ? &job->space->space : nullptr;
            auto looked = look_at_photos(*s.kit, *set->photos, set->marks, look, progress);
            if (!looked) return stop(looked.error());
            job->known = std::make_shared<Known>(Known{set->photos, std::move(*looked)});
        }
        if (job->kind == Job::Kind::Look && !s.fit()) return;
        if (job->kind == Job::Kind::Skin) {
            FirstSkinSettings settings;
            settings.size = job->skin_size;
            const FitRecord& fit = *s.fit();
            job->skin = first_skin(*s.kit, *fit.positions, skin_photos(job->known->looked, fit.photo->cameras()), settings, progress);
            if (!job->skin) stop(job->skin.error());
            return;
        }
        if (!job->space) {
            progress.say(0, "Learning how heads may differ");
            ShapeSpaceOptions options;
            options.neck_band_mm = job->settings.neck_band_mm;
            auto heads = morphs_named(s, job->settings.heads);
            std::vector<const Morph*> known;
            for (const auto& head : heads) known.push_back(head.get());
            auto made = make_shape_space(*s.kit, known, options);
            if (!made) return stop(made.error());
            auto space = std::make_shared<Space>();
            space->kit = s.kit, space->heads = std::move(heads), space->neck_band_mm = job->settings.neck_band_mm;
            space->space = std::move(*made);
            space->regions = face_regions(*s.kit);
            space->sliders = std::make_unique<HandSliders>(*space->kit, space->space, space->regions);
            job->space = space;
        }
        if (job->kind == Job::Kind::Look) return;
        PhotoFitInput in;
        in.kit = s.kit.get(), in.base_points = s.base_points, in.base_curves = s.base_curves, in.space = &job->space->space, in.settings = job->settings;
        in.photos = views_of(job->known->looked);
        for (std::size_t i = 0; i < set->marks.size() && i < in.photos.size(); ++i) {
            if (set->marks[i].width > 0) in.photos[i].marks = set->marks[i];
        }
        for (std::size_t i = 0; i < in.photos.size(); ++i) {
            if (in.photos[i].marks.points.empty()) in.photos[i].marks = job->known->looked[i].marks;   // never marked: as found
        }
        if (from && from->photo && static_cast<Eigen::Index>(from->photo->z.size()) == job->space->space.count()) {
            in.cameras = from->photo->cameras();
            in.z = Eigen::Map<const Eigen::VectorXd>(from->photo->z.data(), static_cast<Eigen::Index>(from->photo->z.size()));
        }
        auto fit = fit_photos(in, progress);
        if (!fit) return stop(fit.error());
        if (job->kind == Job::Kind::Blend) job->other_fit = std::make_shared<FitRecord>(make_photo_record(*s.kit, std::move(*fit), set->name, job->settings, {}, {}, nullptr, nullptr));
        else job->fit = std::move(fit);
    }));
    emit changed();
}

void PhotoController::finish() {
    const auto job = std::move(now_);
    now_ = nullptr;
    s_.end_work();
    emit live_ended();
    if (job->known && job->kind != Job::Kind::Blend && !known()) {
        if (known_.size() > 3) known_.erase(known_.begin());
        known_.push_back(job->known);
    }
    if (job->space && job->kind != Job::Kind::Blend) space_ = job->space;
    if (job->failed) {
        if (job->error.code == ErrorCode::Cancelled) emit s_.noticed(QString::fromStdString(job->error.message));
        else s_.report(job->error);
    } else if (job->kind == Job::Kind::Look) {
        finish_look(*job);
    } else if (job->kind == Job::Kind::Make) {
        finish_make(*job);
    } else if (job->kind == Job::Kind::Skin) {
        finish_skin(*job);
    } else {
        finish_blend(*job);
    }
    emit changed();
}

void PhotoController::look() {
    if (!set() || making() || s_.busy() || (known() && (!fit() || space_for(fit()->photo->settings)))) return;
    auto job = std::make_shared<Job>();
    job->kind = Job::Kind::Look;
    if (fit()) job->settings = fit()->photo->settings;   // what the sliders need
    start(job);
}

void PhotoController::finish_look(Job& job) {
    for (std::size_t i = 0; i < job.known->looked.size(); ++i) {
        if (job.known->looked[i].which_face) emit ask_face(static_cast<int>(i), static_cast<int>(job.known->looked[i].found->faces.size()));
    }
}

void PhotoController::choose_face(int photo, int which) {
    if (!set()) return;
    auto& faces = faces_[set()->name];
    faces.resize(std::max(faces.size(), set()->photos->size()), -1);
    faces[static_cast<std::size_t>(photo)] = which;
    std::erase_if(known_, [&](const auto& k) { return k->photos == set()->photos; });
    ProjectState next = s_.state();
    PhotoSet* of = set_named(next, static_cast<std::size_t>(next.subject), set()->name);
    if (static_cast<std::size_t>(photo) < of->marks.size() && !of->marks[static_cast<std::size_t>(photo)].points.empty()) {
        PhotoMarks& marks = of->marks[static_cast<std::size_t>(photo)];   // of another face
        std::erase_if(marks.points, [&](const auto& p) { return !kept_by_hand(marks.trust_of(p.first)); });
        std::erase_if(marks.curves, [&](const auto& p) { return !kept_by_hand(marks.trust_of(p.first)); });
        s_.change(tr("Another face"), std::move(next));
    }
    look();
}

void PhotoController::make(bool go_on) {
    if (!set() || making()) return;
    auto job = std::make_shared<Job>();
    job->kind = Job::Kind::Make;
    job->settings = settings();
    job->go_on = go_on && fit();
    if (job->go_on) job->settings.pins = fit()->photo->settings.pins;
    start(job);
}

void PhotoController::finish_make(Job& job) {
    for (std::size_t i = 0; i < job.known->looked.size(); ++i) {
        if (job.known->looked[i].which_face) return emit ask_face(static_cast<int>(i), static_cast<int>(job.known->looked[i].found->faces.size()));
    }
    ProjectState next = s_.state();
    // whoever is worked on by now: the head belongs to whom it was made for
    const auto made_for = static_cast<std::size_t>(job.state.subject);
    PhotoSet* of = set_named(next, made_for, job.set);
    if (!of) return emit s_.noticed(tr("The photographs are gone; the head made from them was not kept."));
    of->marks.resize(job.known->looked.size());
    for (std::size_t i = 0; i < of->marks.size(); ++i) {
        if (of->marks[i].points.empty()) of->marks[i] = job.known->looked[i].marks;
    }
    Subject& subject = next.subjects[made_for];
    std::vector<std::string> taken;
    for (const FitRecord& f : subject.fits) taken.push_back(f.name);
    const FitRecord* last = subject.fit();
    if (last && (!last->photo || last->source != job.set)) last = nullptr;
    const HandShape hand = last ? last->photo->hand : HandShape{};
    const SkinRecord skin = last ? last->skin : SkinRecord{};
    FitRecord record = make_photo_record(*next.kit, std::move(*job.fit), job.set, job.settings, taken, hand, last ? last->touch : nullptr, job.space->sliders.get());
    record.skin = skin;
    const bool first = !last;
    add_fit(subject, std::move(record));
    s_.change(job.go_on ? tr("Go on with the photographs") : tr("Make a head from photographs"), std::move(next));
    if (first) through_ = true;   // what one wants to see then
}

void PhotoController::make_skin(int size) {
    if (!fit() || making()) return;
    auto job = std::make_shared<Job>();
    job->kind = Job::Kind::Skin, job->skin_size = size, job->settings = settings();
    start(job);
}

void PhotoController::finish_skin(Job& job) {
    FitRecord* record = nullptr;
    ProjectState next = s_.state();
    if (next.current() && next.current()->fit() && fit()) record = next.current()->fit();
    if (!record || record->positions != job.state.fit()->positions) return emit s_.noticed(tr("The head changed meanwhile; make its skin again."));
    record->skin.image = std::make_shared<Image>(Image{record->name + " skin.png", "image/png", encode_png(job.skin->texture)});
    record->skin.kit_image = job.skin->image;
    record->skin.from_photos = job.skin->from_photos, record->skin.mirrored = job.skin->mirrored, record->skin.from_base = job.skin->from_base;
    s_.change(tr("First skin"), std::move(next));
}

void PhotoController::try_lens(int photo, double mm, bool done) {
    if (!fit()) {
        if (done) edit(tr("Lens"), [&](PhotoFitSettings& f) { f.lenses[static_cast<std::size_t>(photo)].from = PhotoLens::From::Typed, f.lenses[static_cast<std::size_t>(photo)].focal_35mm = mm; }, "photo lens");
        return;
    }
    wanted_lens_ = Lens{photo, mm, done};
    run_lens();
}

void PhotoController::run_lens() {
    if (!wanted_lens_ || lens_job_.isRunning()) return;
    const Lens lens = *wanted_lens_;
    if (running_lens_ && running_lens_->mm == lens.mm && !lens.done) return;
    if (lens.done) {
        wanted_lens_.reset();
        lens_cameras_.clear();
        emit live_ended();
        edit(tr("Lens"), [&](PhotoFitSettings& f) {
            f.lenses[static_cast<std::size_t>(lens.photo)].from = PhotoLens::From::Typed;
            f.lenses[static_cast<std::size_t>(lens.photo)].focal_35mm = lens.mm;
        }, "photo lens");
        return make(true);
    }
    const auto k = known();
    const auto space = space_for(fit()->photo->settings);
    if (!k || !space || static_cast<Eigen::Index>(fit()->photo->z.size()) != space->space.count()) {
        wanted_lens_.reset();
        look();
        return emit s_.noticed(tr("The photographs are being looked at; move the lens again in a moment."));
    }
    running_lens_ = lens;
    PhotoFitInput in = input_of(fit()->photo->settings, *k, *space);
    in.settings.lenses.resize(in.photos.size());
    in.settings.lenses[static_cast<std::size_t>(lens.photo)].from = PhotoLens::From::Typed;
    in.settings.lenses[static_cast<std::size_t>(lens.photo)].focal_35mm = lens.mm;
    in.cameras = fit()->photo->cameras();
    const auto& z = fit()->photo->z;
    in.z = Eigen::Map<const Eigen::VectorXd>(z.data(), static_cast<Eigen::Index>(z.size()));
    in.quick = true;
    lens_job_.setFuture(QtConcurrent::run([in, k, space] { return std::make_shared<Result<PhotoFit>>(fit_photos(in, {})); }));
}

}  // namespace veld
