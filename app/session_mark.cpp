// The session's share in marking: what is looked at, and finding landmarks in the background.
#include <QtConcurrentRun>

#include "app/session.h"
#include "core/detect/reference_store.h"
#include "core/photo/profile.h"

namespace veld {

void Session::select_also(const std::set<std::string>& names) {
    also_ = names;
    also_.erase(selected_);
    emit selection_changed();
}

const Image* Session::photo_bytes() const {
    const Subject* subject = state().current();
    if (!photo_ || !subject || photo_->set >= subject->photo_sets.size()) return nullptr;
    const auto& photos = *subject->photo_sets[photo_->set].photos;
    return photo_->photo < photos.size() ? &photos[photo_->photo] : nullptr;
}

PhotoMarks Session::photo_marks() const {
    if (!photo_bytes()) return {};
    const PhotoSet& set = state().current()->photo_sets[photo_->set];
    return photo_->photo < set.marks.size() ? set.marks[photo_->photo] : PhotoMarks{};
}

void Session::look_at_photo(const std::optional<PhotoPlace>& place) {
    if (place == photo_) return;
    photo_ = place;
    if (photo_ && !photo_bytes()) photo_.reset();
    emit photo_changed();
    emit changed();
}

SnapSurface Session::snap_surface() const {
    SnapSurface out;
    if (!prepared_) return out;
    out.query = prepared_->query.get();
    out.to_kit = source_to_view_;
    if (!prepared_->colour.any()) return out;
    out.lightness = [prepared = prepared_](const SurfaceHit& hit) {
        const auto c = prepared->colour.at(prepared->shown(), prepared->triangulation, hit.triangle, hit.barycentric);
        // a lip differs from the skin beside it in red against green more than in light
        return c ? 1.0 * c->y() + 0.5 * c->z() - 0.5 * c->x() : 0.0;
    };
    return out;
}

void Session::start_detect() {
    const Source* source = state().source();
    if (busy()) {
        emit noticed(tr("Wait until the running work is done, or cancel it."));
        return;
    }
    if (!has_kit() || (!source && !photo_)) return;
    cancel_ = false;
    detecting_ = true;
    auto job = std::make_shared<Detected>();
    job->on = photo_;
    job->subject = static_cast<std::size_t>(state().subject);
    job->source = source ? source->name : std::string();
    job->kit = state().kit;
    job->reference = reference_kit_ == state().kit ? reference_ : nullptr;
    detector_.setFuture(QtConcurrent::run([job, s = state(), copy = source ? *source : Source{}, image = photo_ ? *photo_bytes() : Image{}, progress = worker_progress()] {
        FaceNetwork network;
        if (!job->reference) {
            progress.say(0, "Looking at the base");
            auto made = kept_face_reference(network, *s.kit);
            if (!made) {
                job->scan = made.error(), job->photo = made.error();
                return job;
            }
            job->reference = std::make_shared<FaceReference>(std::move(*made));
        }
        if (job->on) {
            auto photo = decode_photo(image);
            job->photo = photo ? find_on_photo(network, *s.kit, *photo, job->reference.get(), 0, nullptr, progress) : Result<PhotoDetection>(photo.error());
            return job;
        }
        const DetectInput input{s.kit.get(), s.base_points, s.base_curves, copy.mesh.get(), copy.upright, copy.ignored.get(), job->reference.get()};
        job->scan = detect_landmarks(network, input, progress);
        return job;
    }));
    emit busy_changed();
    emit progress(0, tr("Looking for landmarks"));
}

void Session::finish_detect() {
    const auto done = detector_.result();
    detecting_ = false;
    reference_ = done->reference, reference_kit_ = done->kit;
    emit progress(1, {});
    const Error* error = done->on ? (done->photo ? nullptr : &done->photo.error()) : (done->scan ? nullptr : &done->scan.error());
    if (error) {
        if (error->code == ErrorCode::Cancelled) emit noticed(QString::fromStdString(error->message));
        else report(*error);
        emit busy_changed();
        emit detect_finished(false);
        return;
    }
    ProjectState next = state();
    int put = 0, doubted = 0;
    bool there = false;
    if (done->subject < next.subjects.size()) {
        Subject& subject = next.subjects[done->subject];
        if (done->on && done->on->set < subject.photo_sets.size()) {
            PhotoSet& set = subject.photo_sets[done->on->set];
            set.marks.resize(set.photos->size());
            PhotoMarks& marks = set.marks[done->on->photo];
            put = merge_found(*done->photo, marks);
            for (const auto& [name, t] : marks.trust) doubted += unsure_in_photo(t, marks);
            there = true;
        }
        for (Source& source : subject.sources) {
            if (done->on || source.name != done->source) continue;
            put = merge_found(*done->scan, source.landmarks);
            if (!source.landmarks.unit) source.landmarks.unit = source.shown_unit;
            for (const auto& [name, t] : source.landmarks.trust) doubted += unsure(t);
            there = true;
        }
    }
    if (there) {
        change(tr("Find landmarks"), std::move(next));
        QString text = tr("%1 points and curves found; %2 of them unsure, first in the list.").arg(put).arg(doubted);
        if (!done->on && !done->scan->left_out.empty()) text += tr(" %1 left out.").arg(done->scan->left_out.size());
        for (const std::string& note : done->on ? std::vector<std::string>() : done->scan->notes) text += " " + QString::fromStdString(note);
        emit noticed(text);
    } else {
        emit noticed(tr("The source was removed meanwhile; the result was dropped."));
    }
    emit busy_changed();
    emit detect_finished(there);
}

}  // namespace veld
