#include "core/kit_making/lay_base.h"

#include <algorithm>

#include "core/kit/kit_surface.h"
#include "core/spatial/nearest_points.h"

namespace veld {
namespace {

constexpr double kSameMm = 0.005;   // two vertices at one place
constexpr double kSameShare = 0.3;  // of the new base's: both are one surface
constexpr double kFigureMm = 1000;  // a base that is taller has a body

double height(const BaseKit& kit) { return bounding_box(kit.mesh.positions).size().y(); }

// Per vertex of `to` the vertex of `from` at the same place that faces the same way; kNone: there is none.
std::vector<Index> same_vertices(const BaseKit& from, const BaseKit& to) {
    const NearestPoints near(from.mesh.positions, kSameMm);
    const Points &a = kit_normals(from), &b = kit_normals(to);
    std::vector<Index> out(to.mesh.positions.size());
    for (std::size_t v = 0; v < out.size(); ++v) {
        out[v] = near.nearest(to.mesh.positions[v]);
        if (out[v] != kNone && a[out[v]].dot(b[v]) < 0) out[v] = kNone;  // the other sheet of a fold
    }
    return out;
}

Result<LaidModel> lay_by_landmarks(const BaseKit& from, const BaseKit& to, const Progress& progress) {
    FitInput in;
    in.kit = &from;
    in.source = &to.mesh;
    in.unit = Unit::Millimetre;
    const LandmarkSet known = to.landmark_positions();
    for (const auto& [name, p] : known.points) {
        if (from.landmarks.contains(name)) in.landmarks.points[name] = p;
    }
    for (const auto& [name, curve] : known.curves) {
        if (from.curves.contains(name)) in.landmarks.curves[name] = curve;
    }
    in.landmarks.unit = Unit::Millimetre;
    const bool figures = height(from) > kFigureMm && height(to) > kFigureMm;
    in.settings.part = figures ? FitPart::All : FitPart::Head;
    VertexMask not_skin(to.mesh.positions.size(), 1);
    for (const Index v : to.part("skin")->vertices) not_skin[v] = 0;
    in.ignored = &not_skin;
    auto fit = run_fit(in, progress);
    if (!fit) return fit.error();
    LaidModel out;
    out.to_base = fit->placement.source_to_kit.inverse();
    for (const Vec3& p : fit->positions) out.positions.push_back(out.to_base(p));
    out.figures = fit->figures;
    out.notes = fit->notes;
    return out;
}

}  // namespace

Result<LaidBase> lay_base(const BaseKit& from, const BaseKit& to, const Progress& progress) {
    LaidBase out;
    out.same = same_vertices(from, to);
    const auto exact = out.same.size() - static_cast<std::size_t>(std::count(out.same.begin(), out.same.end(), kNone));
    if (static_cast<double>(exact) > kSameShare * static_cast<double>(out.same.size())) {
        out.laid.positions = from.mesh.positions;
        return out;
    }
    out.same.clear();
    auto done = lay_by_landmarks(from, to, progress);
    if (!done) return done.error();
    out.laid = std::move(*done);
    return out;
}

}  // namespace veld
