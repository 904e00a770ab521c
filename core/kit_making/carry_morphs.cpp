#include "core/kit_making/carry_morphs.h"

#include <algorithm>

#include "core/kit/kit_surface.h"
#include "core/kit_making/carry_shape.h"
#include "core/linalg/statistics.h"
#include "core/spatial/nearest_points.h"

namespace veld {
namespace {

constexpr double kSameMm = 0.005;    // two vertices at one place
constexpr double kSameShare = 0.3;   // of the new base's: both are one surface
constexpr double kReachMm = 40;      // of a vertex from the old base
constexpr double kFigureMm = 1000;   // a base that is taller has a body
constexpr double kLeastMove = 1e-4;  // mm

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

// 95 % of max(l / l0, l0 / l) over the edges of what moves.
double edge_change(const BaseKit& kit, const Points& shape) {
    const Adjacency& ways = kit_neighbours(kit);
    std::vector<double> out;
    for (Index v = 0; v < shape.size(); ++v) {
        if ((shape[v] - kit.mesh.positions[v]).norm() < kLeastMove) continue;
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n) {
            const double before = (kit.mesh.positions[*n] - kit.mesh.positions[v]).norm(),
                         after = (shape[*n] - shape[v]).norm();
            if (before > 0 && after > 0) out.push_back(std::max(before / after, after / before));
        }
    }
    return out.empty() ? 1 : quantile(out, 0.95);
}

double most_moved(const Points& base, const Points& shape) {
    double out = 0;
    for (std::size_t v = 0; v < base.size(); ++v) out = std::max(out, (shape[v] - base[v]).norm());
    return out;
}

}  // namespace

Result<CarriedBank> carry_morphs(const BaseKit& from, const BaseKit& to, const std::vector<const Morph*>& morphs,
                                 const Progress& progress) {
    CarriedBank out;
    const auto deltas = whole_deltas(from, morphs);
    if (!deltas) return deltas.error();
    const std::vector<Index> same = same_vertices(from, to);
    out.exact = same.size() - static_cast<std::size_t>(std::count(same.begin(), same.end(), kNone));
    const bool one_surface = static_cast<double>(out.exact) > kSameShare * static_cast<double>(same.size());
    LaidModel laid;
    if (one_surface) {
        laid.positions = from.mesh.positions;
    } else {
        out.exact = 0;
        auto done = lay_by_landmarks(from, to, progress);
        if (!done) return done.error();
        laid = std::move(*done);
        out.notes = laid.notes;
    }
    const std::vector<ModelPlace> places = places_on_model(from, laid, to.mesh, kReachMm);
    std::vector<double> apart;
    for (const Index v : to.part("skin")->vertices) {
        if (places[v])
            apart.push_back(places[v].off_mm);
        else
            ++out.without;
    }
    out.apart_mm = apart.empty() ? 0 : quantile(apart, 0.5);
    const ShapeCarrier carry(from, laid, places, to);
    for (std::size_t m = 0; m < morphs.size(); ++m) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        const Points& delta = (*deltas)[m];
        Points shape = from.mesh.positions;
        for (std::size_t v = 0; v < shape.size(); ++v) shape[v] += delta[v];
        Points moved = carry(shape, morphs[m]->kind == MorphKind::Expression);
        for (std::size_t v = 0; one_surface && v < same.size(); ++v) {
            if (same[v] != kNone) moved[v] = to.mesh.positions[v] + delta[same[v]];
        }
        CarriedMorph one;
        auto morph = make_morph(to, moved, morphs[m]->name, kLeastMove);
        if (!morph) return morph.error();
        one.morph = std::move(*morph);
        const Morph& old = *morphs[m];
        one.morph.root = laid.to_base.scale * old.root;
        one.morph.low = old.low, one.morph.high = old.high, one.morph.usual = old.usual;
        one.morph.kind = old.kind, one.morph.group = old.group, one.morph.tag = old.tag, one.morph.note = old.note;
        one.morph.origin = old.origin.empty() ? "From another base" : old.origin + "; from another base";
        one.most_before = most_moved(from.mesh.positions, shape);
        one.most_after = most_moved(to.mesh.positions, moved);
        one.stretch_before = edge_change(from, shape);
        one.stretch_after = edge_change(to, moved);
        const std::vector<Triangle>& triangles = skin_triangles(from);
        for (const Index v : to.part("skin")->vertices) {
            if (!places[v]) continue;
            // how far the move differs from the strongest of the corners that it was taken from
            const Triangle& on = triangles[places[v].triangle];
            double strongest = 0;
            for (const Index w : on) strongest = std::max(strongest, carry.turned(w, delta[w]).norm());
            const double lost = strongest - (moved[v] - to.mesh.positions[v]).norm();
            if (lost > one.worst_mm) one.worst_mm = lost, one.worst = v;
        }
        out.morphs.push_back(std::move(one));
    }
    return out;
}

}  // namespace veld
