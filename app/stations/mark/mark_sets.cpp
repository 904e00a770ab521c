// Whole sets of landmarks: other side, files, other scans, trust, what looks wrong.
#include <algorithm>

#include "app/lengths.h"
#include "app/prepared_source.h"
#include "app/stations/mark/mark_controller.h"
#include "core/base/file.h"
#include "core/detect/photo_face.h"
#include "core/landmark/copy_marks.h"
#include "core/landmark/snap.h"

namespace veld {

void MarkController::erase_selected() {
    if (!joints_->selected().empty()) return joints_->give_back();
    const std::string name = s_.selected();
    if (name.empty()) return;
    if (trust_of(name).locked) {
        emit s_.noticed(tr("%1 is locked; unlock it first (Shift+L).").arg(plain(name)));
        return;
    }
    if (s_.photo()) {
        if (marked(name))
            set_photo(name, [&](PhotoMarks& m) { m.points.erase(name), m.curves.erase(name), m.trust.erase(name); },
                      tr("Delete %1").arg(plain(name)), {});
        return;
    }
    ProjectState next = s_.state();
    Source* source = edited(next);
    const bool own = !landmark_scheme().point(name) && !landmark_scheme().curve(name);
    bool on_source = false;
    if (source) {
        for (const std::string& each : selection()) {
            on_source |= source->landmarks.points.erase(each) + source->landmarks.curves.erase(each) > 0;
            source->landmarks.trust.erase(each);
        }
    }
    if (!on_source && own) {
        next.base_points.erase(name), next.base_curves.erase(name);
        s_.select({});
    }
    if (on_source || own) s_.change(tr("Delete %1").arg(plain(name)), std::move(next));
}

void MarkController::mirror_selected() {
    const std::string name = s_.selected(), partner = other_side(name);
    const Source* source = s_.state().source();
    if (!source || !s_.prepared() || s_.photo()) return;
    if (partner.empty()) {
        emit s_.noticed(tr("A landmark on the midline has no other side."));
        return;
    }
    // an existing partner is copied over to this side; else this point is copied to the other
    const auto here = source->landmarks.points.find(name), there = source->landmarks.points.find(partner);
    const bool to_here = here == source->landmarks.points.end();
    const auto& from = to_here ? there : here;
    if (from == source->landmarks.points.end()) {
        emit s_.noticed(tr("Mark one of the two sides first."));
        return;
    }
    const auto mirror = own_mirror(source->landmarks, s_.source_to_view());
    if (!mirror || source->landmarks.points.size() < 4) {
        emit s_.noticed(tr("Mark at least four landmarks first; they give the mirror plane."));
        return;
    }
    const Vec3 other = mirrored(from->second, *mirror, s_.source_to_view());
    const SurfaceHit hit = s_.prepared()->query->closest(other, 1e12);
    set_point(to_here ? name : partner, snapped(to_here ? name : partner, hit ? hit.position : other),
              tr("Mirror %1").arg(plain(from->first)), {}, Origin::Mirrored);
}

void MarkController::mirror_all_missing() {
    ProjectState next = s_.state();
    Source* source = edited(next);
    if (!source || !s_.prepared() || s_.photo()) return;
    LandmarkSet& set = source->landmarks;
    const auto mirror = own_mirror(set, s_.source_to_view());
    if (set.points.size() < 4 || !mirror) {
        emit s_.noticed(tr("Mark at least four landmarks first; they give the mirror plane."));
        return;
    }
    const auto over = [&](const Vec3& p) {
        const Vec3 other = mirrored(p, *mirror, s_.source_to_view());
        const SurfaceHit hit = s_.prepared()->query->closest(other, 1e12);
        return hit ? hit.position : other;
    };
    int made = 0;
    for (const auto& [name, p] : std::map<std::string, Vec3>(set.points)) {
        const std::string partner = other_side(name);
        if (partner.empty() || set.points.contains(partner)) continue;
        set.points[partner] = over(p);
        set.trust[partner] = {}, set.trust[partner].origin = Origin::Mirrored;
        ++made;
    }
    for (const auto& [name, line] : std::map<std::string, Points>(set.curves)) {
        const std::string partner = other_side(name);
        if (partner.empty() || set.curves.contains(partner)) continue;
        for (const Vec3& p : line) set.curves[partner].push_back(over(p));
        set.trust[partner] = {}, set.trust[partner].origin = Origin::Mirrored;
        ++made;
    }
    if (made) s_.change(tr("Mirror all"), std::move(next));
    emit s_.noticed(made ? tr("%n landmark(s) mirrored; check them.", nullptr, static_cast<int>(made))
                         : tr("Every landmark has its partner already."));
}

void MarkController::swap_sides() {
    if (const Source* source = s_.state().source()) swap_sides_of(source->id);
}

void MarkController::swap_sides_of(SourceId id) {
    ProjectState next = s_.state();
    Source* source = find_source(next, id);
    if (!source) return;
    source->landmarks = veld::swap_sides(source->landmarks);
    s_.change(tr("Swap sides"), std::move(next));
}

void MarkController::change_trust(const QString& label, const std::function<void(const std::string&, Trust&)>& edit,
                                  const std::vector<std::string>& names) {
    ProjectState next = s_.state();
    PhotoMarks* photo = s_.photo() ? edited_photo(next) : nullptr;
    Source* source = edited(next);
    if (!photo && !source) return;
    auto& trust = photo ? photo->trust : source->landmarks.trust;
    const auto before = trust;
    for (const std::string& name : names) {
        if (marked(name)) edit(name, trust[name]);
    }
    if (trust != before) s_.change(label, std::move(next));
}

void MarkController::toggle_locked() {
    const bool lock = !trust_of(s_.selected()).locked;
    change_trust(
        lock ? tr("Lock") : tr("Unlock"), [lock](const std::string&, Trust& t) { t.locked = lock; }, selection());
}

void MarkController::toggle_hidden() {
    const bool hide = !trust_of(s_.selected()).hidden;
    change_trust(
        hide ? tr("Hide") : tr("Show"), [hide](const std::string&, Trust& t) { t.hidden = hide; }, selection());
}

void MarkController::show_all() {
    std::vector<std::string> all = known_points();
    for (const std::string& c : known_curves()) all.push_back(c);
    change_trust(
        tr("Show all"), [](const std::string&, Trust& t) { t.hidden = false; }, all);
}

void MarkController::accept_selected() {
    change_trust(
        tr("Accept %1").arg(plain(s_.selected())),
        [](const std::string&, Trust& t) { t.accepted = t.origin == Origin::Found || t.accepted; }, selection());
}

void MarkController::accept_within(double mm) {
    std::vector<std::string> all = known_points();
    for (const std::string& c : known_curves()) all.push_back(c);
    int count = 0;
    change_trust(
        tr("Accept all within %1").arg(s_.photo() ? tr("%1 px").arg(mm) : length_text(mm, 1)),
        [&](const std::string&, Trust& t) {
            if (t.origin == Origin::Found && !t.accepted && t.expected_mm <= mm) t.accepted = true, ++count;
        },
        all);
    emit s_.noticed(tr("%n landmark(s) accepted.", nullptr, static_cast<int>(count)));
}

std::vector<Suspicion> MarkController::suspicions() const {
    const Source* source = s_.state().source();
    if (!source || s_.photo()) return {};
    std::map<std::string, Vec3> base;
    for (const auto& [name, p] : s_.state().base_points) base[name] = p.at(s_.state().kit->mesh.positions);
    if (base != judged_base_ || source->landmarks.points != judged_points_) {
        suspicions_ = find_suspicions(base, source->landmarks);
        judged_base_ = std::move(base), judged_points_ = source->landmarks.points;
    }
    return suspicions_;
}

QString MarkController::describe(const Suspicion& f) const {
    switch (f.kind) {
        case SuspicionKind::SidesSwapped:
            return tr("Left and right look swapped.");
        case SuspicionKind::Exchanged:
            return tr("%1 and %2 look swapped.").arg(plain(f.a), plain(f.b));
        case SuspicionKind::FarOff:
            return tr("%1 lies %2 from where the others put it.").arg(plain(f.a), length_text(f.off_mm, 0));
    }
    return {};
}

void MarkController::repair(const Suspicion& finding) {
    ProjectState next = s_.state();
    Source* source = edited(next);
    if (!source) return;
    source->landmarks = repaired(source->landmarks, finding);
    if (finding.kind == SuspicionKind::FarOff && s_.prepared()) {
        const SurfaceHit hit = s_.prepared()->query->closest(source->landmarks.points[finding.a], 1e12);
        if (hit) source->landmarks.points[finding.a] = hit.position;
    }
    s_.change(tr("Repair: %1").arg(describe(finding)), std::move(next));
}

void MarkController::copy_from(SourceId id) {
    ProjectState next = s_.state();
    Source* to = edited(next);
    const Source* from = find_source(next, id);
    if (!to || !from || from == to || !s_.prepared()) return;
    const QString name = QString::fromStdString(from->name);
    const int put =
        copy_marks({&from->landmarks, from->upright, to->upright, s_.prepared()->query.get()}, to->landmarks);
    if (put) s_.change(tr("Copy landmarks from %1").arg(name), std::move(next));
    emit s_.noticed(put ? tr("%n landmark(s) copied; check them.", nullptr, static_cast<int>(put))
                        : tr("Nothing was copied: the two scans do not overlap. Mark three landmarks on both first."));
}

Status MarkController::read(const QString& path) {
    if (s_.photo()) {
        auto bytes = read_file(path.toStdString());
        if (!bytes) return bytes.error();
        auto marks = parse_photo_marks(bytes->view(), path.toStdString());
        if (!marks) return marks.error();
        const Image* image = s_.photo_bytes();
        auto photo = decode_photo(*image);
        if (photo && (photo->pixels.width != marks->width || photo->pixels.height != marks->height))
            return Error{ErrorCode::BadInput, "'" + path.toStdString() + "' is for a picture of " +
                                                  std::to_string(marks->width) + " x " +
                                                  std::to_string(marks->height) + " pixels, not for this one."};
        set_photo({}, [&](PhotoMarks& m) { m = std::move(*marks); }, tr("Read landmarks"), {});
        return Done{};
    }
    auto file = read_landmarks(path.toStdString());
    if (!file) return file.error();
    ProjectState next = s_.state();
    Source* edit = edited(next);
    if (!edit) return Error{ErrorCode::BadInput, "Load a scan before its landmarks."};
    Source& source = *edit;
    source.landmarks = std::move(file->set);
    for (const auto& [name, p] : source.landmarks.points)
        source.landmarks.trust.try_emplace(name, Trust{.origin = Origin::Read});
    for (const auto& [name, p] : source.landmarks.curves)
        source.landmarks.trust.try_emplace(name, Trust{.origin = Origin::Read});
    if (!source.unit) source.unit = source.landmarks.unit;
    const int points = static_cast<int>(source.landmarks.points.size()),
              curves = static_cast<int>(source.landmarks.curves.size());
    s_.change(tr("Read landmarks"), std::move(next));
    QString note = tr("%n landmark(s) and %1 curves read.", nullptr, static_cast<int>(points)).arg(curves);
    if (!file->unknown.empty())
        note += tr(" %1 names are not in the scheme; they are kept.").arg(file->unknown.size());
    emit s_.noticed(note);
    return Done{};
}

Status MarkController::write(const QString& path) const {
    if (s_.photo()) return write_file(path.toStdString(), photo_marks_text(s_.photo_marks()));
    const Source* source = s_.state().source();
    if (!source) return Error{ErrorCode::BadInput, "There is no scan whose landmarks could be written."};
    LandmarkSet set = source->landmarks;
    if (!set.unit) set.unit = source->unit;
    return write_file(path.toStdString(), landmarks_text(set));
}

}  // namespace veld
