#include "app/stations/mark/mark_controller.h"

#include <algorithm>

#include "core/fit/place.h"
#include "core/io/file.h"

namespace veld {
namespace {

// Seen at once on any head, spread over all of it.
constexpr const char* kFirstTen[] = {"exocanthion_r", "exocanthion_l", "endocanthion_r", "endocanthion_l", "pronasale",
                                     "cheilion_r",    "cheilion_l",    "pogonion",       "tragion_r",      "tragion_l"};

std::string other_side(const std::string& name) {
    const SchemePoint* p = landmark_scheme().point(name);
    return p ? p->mirror : std::string();
}

}  // namespace

const std::vector<std::string>& MarkController::order() const {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> out(std::begin(kFirstTen), std::end(kFirstTen));
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

std::vector<std::string> MarkController::known_points() const {
    std::vector<std::string> out;
    const FitPart part = s_.state().settings.part;
    for (const std::string& name : order()) {
        if (s_.state().base_points.contains(name) && places_part(name, part)) out.push_back(name);
    }
    for (const auto& [name, p] : s_.state().base_points) {
        if (!landmark_scheme().point(name)) out.push_back(name);
    }
    return out;
}

QString MarkController::plain(const std::string& name) const { return QString::fromStdString(landmark_scheme().plain(name)); }

bool MarkController::source_hit(const Ray& ray, Vec3& out) const {
    if (!s_.prepared()) return false;
    const Similarity back = s_.source_to_view().inverse();
    const SurfaceHit hit = s_.prepared()->first_hit(back(ray.origin), back.rotation * ray.direction);
    out = hit.position;
    return static_cast<bool>(hit);
}

void MarkController::set_point(const std::string& name, const Vec3& p, const QString& label, const std::string& merge) {
    ProjectState next = s_.state();
    if (!next.current() || next.current()->sources.empty()) return;
    next.current()->sources.back().landmarks.points[name] = p;
    s_.change(label, std::move(next), merge);
}

void MarkController::click_source(const Ray& ray) {
    Vec3 p;
    if (!source_hit(ray, p)) return;
    if (s_.selected().empty()) select_next_missing();
    const std::string name = s_.selected();
    if (name.empty()) return;
    set_point(name, p, tr("Mark %1").arg(plain(name)), {});
    select_next_missing();
}

void MarkController::click_base(const Ray& ray) {
    if (!s_.base_query()) return;
    const SurfaceHit hit = s_.base_query()->first_hit(ray.origin, ray.direction);
    if (!hit) return;
    ProjectState next = s_.state();
    std::vector<std::string> taken;
    for (const auto& [name, p] : next.base_points) taken.push_back(name);
    const std::string name = free_name("own point", taken);
    next.base_points[name] = surface_point(next.kit->triangulation, hit);
    s_.change(tr("Add %1").arg(QString::fromStdString(name)), std::move(next));
    s_.select(name);
}

void MarkController::drag_source(const std::string& name, const Ray& ray) {
    Vec3 p;
    if (source_hit(ray, p)) set_point(name, p, tr("Move %1").arg(plain(name)), "drag source " + name);
}

void MarkController::drag_base(const std::string& name, const Ray& ray) {
    if (!s_.base_query()) return;
    const SurfaceHit hit = s_.base_query()->first_hit(ray.origin, ray.direction);
    if (!hit) return;
    ProjectState next = s_.state();
    next.base_points[name] = surface_point(next.kit->triangulation, hit);
    s_.change(tr("Move %1 on the base").arg(plain(name)), std::move(next), "drag base " + name);
}

void MarkController::select_next(int step) {
    const std::vector<std::string> names = known_points();
    if (names.empty()) return;
    const auto at = std::find(names.begin(), names.end(), s_.selected());
    const int count = static_cast<int>(names.size());
    const int from = at == names.end() ? (step > 0 ? -1 : 0) : static_cast<int>(at - names.begin());
    s_.select(names[static_cast<std::size_t>(((from + step) % count + count) % count)]);
}

void MarkController::select_next_missing() {
    const Source* source = s_.state().source();
    if (!source) return;
    const std::vector<std::string> names = known_points();
    const auto at = std::find(names.begin(), names.end(), s_.selected());
    const std::size_t first = at == names.end() ? 0 : static_cast<std::size_t>(at - names.begin()) + 1;
    for (std::size_t i = 0; i < names.size(); ++i) {
        const std::string& name = names[(first + i) % names.size()];
        if (!source->landmarks.points.contains(name)) return s_.select(name);
    }
}

void MarkController::erase_selected() {
    const std::string name = s_.selected();
    ProjectState next = s_.state();
    if (name.empty() || !next.current() || next.current()->sources.empty()) return;
    const bool own = !landmark_scheme().point(name);
    const bool on_source = next.current()->sources.back().landmarks.points.erase(name) > 0;
    if (!on_source && own) {
        next.base_points.erase(name);
        s_.select({});
    }
    if (on_source || own) s_.change(tr("Delete %1").arg(plain(name)), std::move(next));
}

void MarkController::mirror_selected() {
    const std::string name = s_.selected(), partner = other_side(name);
    const Source* source = s_.state().source();
    if (!source || !s_.prepared()) return;
    if (partner.empty()) {
        emit s_.noticed(tr("A point of the midline has no other side."));
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
    if (source->landmarks.points.size() < 4) {
        emit s_.noticed(tr("Mark at least four points first; they give the plane to mirror on."));
        return;
    }
    const Vec3 p = mirror_on_source(from->second, s_.source_to_view(), *s_.prepared()->query);
    set_point(to_here ? name : partner, p, tr("Mirror %1").arg(plain(from->first)), {});
}

void MarkController::mirror_all_missing() {
    ProjectState next = s_.state();
    if (!next.current() || next.current()->sources.empty() || !s_.prepared()) return;
    auto& points = next.current()->sources.back().landmarks.points;
    if (points.size() < 4) {
        emit s_.noticed(tr("Mark at least four points first; they give the plane to mirror on."));
        return;
    }
    int made = 0;
    for (const auto& [name, p] : std::map<std::string, Vec3>(points)) {
        const std::string partner = other_side(name);
        if (partner.empty() || points.contains(partner)) continue;
        points[partner] = mirror_on_source(p, s_.source_to_view(), *s_.prepared()->query);
        ++made;
    }
    if (made) s_.change(tr("Mirror %n points", nullptr, made), std::move(next));
    emit s_.noticed(made ? tr("%1 points mirrored; check them.").arg(made) : tr("Every marked point has its partner already."));
}

void MarkController::swap_sides() {
    ProjectState next = s_.state();
    if (!next.current() || next.current()->sources.empty()) return;
    LandmarkSet& set = next.current()->sources.back().landmarks;
    set = veld::swap_sides(set);
    s_.change(tr("Swap sides"), std::move(next));
}

Status MarkController::read(const QString& path) {
    auto file = read_landmarks(path.toStdString());
    if (!file) return file.error();
    ProjectState next = s_.state();
    if (!next.current() || next.current()->sources.empty()) return Error{ErrorCode::BadInput, "Load a scan before its landmarks."};
    Source& source = next.current()->sources.back();
    source.landmarks = std::move(file->set);
    if (!source.unit) source.unit = source.landmarks.unit;
    const int points = static_cast<int>(source.landmarks.points.size()), curves = static_cast<int>(source.landmarks.curves.size());
    s_.change(tr("Read landmarks"), std::move(next));
    QString note = tr("%1 points and %2 curves read.").arg(points).arg(curves);
    if (!file->unknown.empty()) note += tr(" %1 names are not in the scheme; they are kept.").arg(file->unknown.size());
    emit s_.noticed(note);
    return Done{};
}

Status MarkController::write(const QString& path) const {
    const Source* source = s_.state().source();
    if (!source) return Error{ErrorCode::BadInput, "There is no scan whose landmarks could be written."};
    LandmarkSet set = source->landmarks;
    if (!set.unit) set.unit = source->unit;
    return write_file(path.toStdString(), landmarks_text(set));
}

std::map<std::string, double> MarkController::residuals() const {
    std::map<std::string, double> out;
    const Source* source = s_.state().source();
    if (!source || source->landmarks.points.size() < 3) return out;
    const ProjectState& state = s_.state();
    for (const auto& [name, p] : source->landmarks.points) {
        const auto at = state.base_points.find(name);
        if (at != state.base_points.end()) out[name] = (s_.source_to_view()(p) - at->second.at(state.kit->mesh.positions)).norm();
    }
    return out;
}

}  // namespace veld
