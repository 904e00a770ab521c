#include "app/scene/base_marks.h"

#include <algorithm>

#include "app/theme.h"
#include "core/kit/kit_surface.h"
#include "core/spatial/sight.h"

namespace veld {
namespace {

constexpr double kFarMm = 3000, kSlackMm = 2.5;  // a parallel camera's distance; what hides no marker
constexpr double kFaceMm = 55, kSkinMm = 130, kEarMm = 60,
                 kLeastCurveMm = 30;  // how much is seen around what is selected
constexpr double kFromBehind = 0.45;  // cosine; a place that is seen so is turned to

Vec3 from_the_side(const Vec3& at) { return Vec3(at.x() < 0 ? -1 : 1, 0, 0.15).normalized(); }

}  // namespace

const QColor kUnsureColour(0xe8, 0xd8, 0xa0);

QColor faint(QColor c, int alpha) {
    c.setAlpha(alpha);
    return c;
}

bool in_sight(const Camera& c, const SurfaceQuery& query, const Similarity& to_view, const Vec3& p) {
    const Vec3 eye = c.orthographic ? Vec3(p - kFarMm * c.forward()) : c.eye();
    return seen_from(query, to_view, eye, p, kSlackMm);
}

void add_line(Marks& out, GuideLine&& line, std::size_t in_sight) {
    if (line.selected || 2 * in_sight > line.points.size()) out.lines.push_back(std::move(line));
}

Marks base_marks(const Session& s, const BaseMarks& which, const Camera& camera) {
    Marks out;
    const ProjectState& state = s.state();
    const Points& x = state.kit->mesh.positions;
    for (const std::string& name : which.points) {
        const auto at = state.base_points.find(name);
        if (at == state.base_points.end()) continue;
        const bool unsure = which.unsure.contains(name);
        Marker m;
        m.name = name;
        m.position = at->second.at(x);
        m.colour = unsure ? kUnsureColour : theme::kOchre;
        m.label = which.plain(name);
        m.selected = name == s.selected();
        m.shape = unsure ? MarkerShape::Unsure : MarkerShape::Diamond;
        m.hidden = !in_sight(camera, *s.base_query(), {}, m.position);
        out.markers.push_back(m);
    }
    for (const std::string& name : which.curves) {
        const auto at = state.base_curves.find(name);
        if (at == state.base_curves.end()) continue;
        const QColor colour = which.unsure.contains(name) ? kUnsureColour : theme::kOchre;
        GuideLine line{{}, faint(colour, 110), name == s.selected(), false};
        if (line.selected) line.colour = colour;
        std::size_t seen = 0;
        for (const SurfacePoint& p : at->second) {
            line.points.push_back(p.at(x));
            seen += in_sight(camera, *s.base_query(), {}, line.points.back());
        }
        add_line(out, std::move(line), seen);
    }
    return out;
}

std::optional<BasePlace> place_on_base(const ProjectState& state, const std::string& name) {
    const Points& x = state.kit->mesh.positions;
    const SurfacePoint* place = nullptr;
    double radius = kFaceMm;
    if (const auto at = state.base_points.find(name); at != state.base_points.end()) place = &at->second;
    if (const auto at = state.base_curves.find(name); at != state.base_curves.end() && !at->second.empty()) {
        place = &at->second[at->second.size() / 2];
        Box box;
        for (const SurfacePoint& p : at->second) box.add(p.at(x));
        radius = std::max(kLeastCurveMm, 0.7 * box.size().norm());
    }
    if (!place) return {};
    const SchemePoint* point = landmark_scheme().point(name);
    const SchemeCurve* curve = landmark_scheme().curve(name);
    if ((point && point->region == "ear") || (curve && curve->region == "ear")) {
        // parts of it face backwards or down, but an ear is recognised from the side
        return BasePlace{{place->at(x), kEarMm}, from_the_side(place->at(x))};
    }
    if (!in_point_set(name, PointSet::Face)) radius = std::max(radius, kSkinMm);  // even skin needs more around it
    return BasePlace{{place->at(x), radius}, place->normal(x)};
}

std::optional<BasePlace> place_of_region(const BaseKit& kit, const Points& shape, const std::string& region) {
    Box box;
    Vec3 normal = Vec3::Zero();
    const Points& normals = kit_normals(kit);
    for (const Index v : kit.region(region)) box.add(shape[v]), normal += normals[v];
    if (box.empty()) return {};
    const bool ear = region.starts_with("ear");
    if (ear) normal = from_the_side(box.centre());
    if (normal.norm() < 1e-9) normal = Vec3::UnitZ();
    return BasePlace{{box.centre(), std::max(kLeastCurveMm, 0.6 * box.size().norm())}, normal.normalized()};
}

void look_at_place(const BasePlace& place, Camera& camera) {
    if (place.normal.dot(-camera.forward()) < kFromBehind) camera.face(place.normal, 50);
    camera.frame(place.framing.centre, place.framing.radius);
}

}  // namespace veld
