#include "core/kit_making/carry_morphs.h"

#include <algorithm>

#include "core/kit/kit_surface.h"
#include "core/kit_making/carry_shape.h"
#include "core/kit_making/lay_base.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kReachMm = 40;      // of a vertex from the old base
constexpr double kLeastMove = 1e-4;  // mm

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
    auto laid_base = lay_base(from, to, progress);
    if (!laid_base) return laid_base.error();
    const std::vector<Index>& same = laid_base->same;
    const bool one_surface = !same.empty();
    out.exact = same.size() - static_cast<std::size_t>(std::count(same.begin(), same.end(), kNone));
    const LaidModel& laid = laid_base->laid;
    out.notes = laid.notes;
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
