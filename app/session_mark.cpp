// The session's share in marking: what is looked at, and finding landmarks in the background.
#include "app/session_parts.h"
#include "core/detect/reference_store.h"
#include "core/fit/take_pose.h"
#include "core/landmark/snap.h"
#include "core/photo/profile.h"
#include "core/project/pager.h"

namespace veld {

void Session::select_also(const std::set<std::string>& names) {
    also_ = names;
    also_.erase(selected_);
    emit selection_changed();
}

const Image* Session::photo_bytes() const {
    const PhotoSet* set = photo_ ? find_photo_set(state(), photo_->set) : nullptr;
    return set && photo_->photo < set->photos->size() ? &(*set->photos)[photo_->photo] : nullptr;
}

PhotoMarks Session::photo_marks() const {
    if (!photo_bytes()) return {};
    const PhotoSet& set = *find_photo_set(state(), photo_->set);
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
    if (!has_kit() || (!source && !photo_) || refuse_while_busy()) return;
    JobInfo info{
        JobKind::Detect,
        photo_ ? tr("Finding landmarks on a photograph") : tr("Finding landmarks of %1").arg(subject_name(subject())),
        subject()};
    info.memory_bytes = source && !photo_ ? 6 * bytes_of(*source->mesh) : std::size_t{300} << 20;
    const auto known = reference_kit_ == state().kit ? reference_ : nullptr;
    jobs_.start<Detected>(
        std::move(info),
        [known, on = photo_, s = state(), copy = source ? *source : Source{},
         image = photo_ ? *photo_bytes() : Image{}](const Progress& progress) -> Result<Detected> {
            FaceNetwork network;
            Detected out;
            out.reference = known, out.kit = s.kit;
            if (!out.reference) {
                progress.say(0, "Looking at the base");
                auto made = kept_face_reference(network, *s.kit);
                if (!made) return made.error();
                out.reference = std::make_shared<FaceReference>(std::move(*made));
            }
            if (on) {
                auto photo = decode_photo(image);
                if (!photo) return photo.error();
                auto found = find_on_photo(network, *s.kit, *photo, out.reference.get(), 0, nullptr, progress);
                if (!found) return found.error();
                out.photo = std::move(*found);
                return out;
            }
            const DetectInput input{s.kit.get(),  s.base_points,      s.base_curves,      copy.mesh.get(),
                                    copy.upright, copy.ignored.get(), out.reference.get()};
            auto found = detect_landmarks(network, input, progress);
            if (!found) return found.error();
            out.scan = std::move(*found);
            return out;
        },
        [this, id = source ? source->id : SourceId{}, on = photo_](Result<Detected>&& done) {
            finish_detect(id, on, std::move(done));
        });
}

void Session::finish_detect(SourceId id, const std::optional<PhotoPlace>& on, Result<Detected>&& done) {
    if (!done) {
        say_why_not(done.error());
        emit detect_finished(false);
        return;
    }
    reference_ = done->reference, reference_kit_ = done->kit;
    ProjectState next = state();
    PhotoSet* set = on ? find_photo_set(next, on->set) : nullptr;
    Source* source = on ? nullptr : find_source(next, id);
    if (!source && !(set && on->photo < set->photos->size())) {
        emit noticed(tr("What was being marked has been removed; the result was discarded."));
        emit detect_finished(false);
        return;
    }
    int put = 0, doubted = 0;
    std::vector<std::string> unseen;
    if (set) {
        set->marks.resize(set->photos->size());
        PhotoMarks& marks = set->marks[on->photo];
        put = merge_found(*done->photo, marks);
        for (const auto& [name, t] : marks.trust) doubted += unsure_in_photo(t, marks);
    } else {
        put = merge_found(*done->scan, source->landmarks);
        if (!source->landmarks.unit) source->landmarks.unit = source->shown_unit;
        unseen = leave_out_unseen(*done->scan, *next.kit, next.settings);
        for (const auto& [name, t] : source->landmarks.trust) doubted += unsure(t);
    }
    change(tr("Find landmarks"), std::move(next));
    const bool leaves_out = done->scan && leave_out_not_skin(id, *done->scan);
    QString text = tr("%n landmark(s) found; %1 of them unsure, first in the list.", nullptr, put).arg(doubted);
    if (done->scan && !done->scan->left_out.empty()) text += tr(" %1 left out.").arg(done->scan->left_out.size());
    for (const std::string& note : done->scan ? done->scan->notes : std::vector<std::string>())
        text += " " + QString::fromStdString(note);
    for (const std::string& region : unseen)
        text += tr(" The fit does not match %1, which is covered or missing (Fit, Regions: Follow).")
                    .arg(region == "ear_l" ? tr("the left ear") : tr("the right ear"));
    if (done->scan && !preset_for(*done->scan, state().settings).empty())
        text += tr(" It is a whole figure: start from settings for a whole figure (Fit) to fit all of it.");
    if (leaves_out)
        text += tr(" %1 % of it is likely no skin and left out of the fit; undo matches it.")
                    .arg(std::max(1L, std::lround(100 * done->scan->not_skin_share)));
    emit noticed(text);
    emit busy_changed();
    emit detect_finished(true);
}

void Session::follow_joints(bool from_marks, const QString& label) {
    const Source* source = state().source();
    // what runs goes on from what is there when it ends
    if (!source || !has_kit() || jobs_.has(JobKind::Joints, subject())) return;
    JobInfo info{JobKind::Joints, tr("Finding joints of %1").arg(subject_name(subject())), subject()};
    info.memory_bytes = 4 * bytes_of(*source->mesh);
    jobs_.start<JointMarks>(
        std::move(info),
        [s = state(), copy = *source, from_marks](const Progress& progress) {
            FitInput input{s.kit.get(), s.base_points, copy.mesh.get(),   copy.landmarks,
                           copy.unit,   s.settings,    copy.ignored.get()};
            return find_joints(input, from_marks, progress);
        },
        [this, id = source->id, from = source->landmarks.joints, label](Result<JointMarks>&& found) {
            finish_joints(id, from, label, std::move(found));
        });
}

void Session::finish_joints(SourceId id, const JointMarks& from, const QString& label, Result<JointMarks>&& found) {
    emit busy_changed();
    if (!found) return say_why_not(found.error());
    ProjectState next = state();
    Source* source = find_source(next, id);
    if (!source) return;
    if (source->landmarks.joints != from) {  // moved meanwhile: what was found is of before
        if (state().source() && state().source()->id == id) follow_joints(true, label);
        return;
    }
    source->landmarks.joints = std::move(*found);
    label.isEmpty() ? document_.amend(std::move(next)) : change(label, std::move(next));
}

// A step of its own, so that one undo takes it back and keeps the landmarks.
bool Session::leave_out_not_skin(const SourceId& id, const Detection& found) {
    ProjectState next = state();
    Source* source = find_source(next, id);
    if (!source || found.not_skin.empty() || found.not_skin.size() != source->mesh->positions.size()) return false;
    if (source->ignored) return false;  // somebody has said what to leave out
    source->ignored = source->not_skin = std::make_shared<const VertexMask>(found.not_skin);
    change(tr("Leave out what is no skin"), std::move(next));
    return true;
}

void Session::match_all() {
    ProjectState next = state();
    Source* source = next.source() ? find_source(next, next.source()->id) : nullptr;
    if (!source || !source->ignored) return;
    source->ignored = nullptr;
    change(tr("Match all of the source"), std::move(next));
}

}  // namespace veld
