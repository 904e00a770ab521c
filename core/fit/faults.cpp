#include "core/fit/faults.h"

#include <algorithm>

#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

constexpr int kBackTries = 4, kRingsBack = 8;

}  // namespace

SurfaceFaults surface_faults(const WrapProblem& problem, const ProblemSurface& surface,
                             const std::set<std::pair<Index, Index>>& base_cuts, const Points& x) {
    SurfaceFaults out;
    const auto add = [&](Index t) { out.vertices.insert(surface.triangles[t].begin(), surface.triangles[t].end()); };
    out.flipped = flipped_triangles(surface.stencil, surface.triangles, problem.base->positions, x);
    for (const Index t : out.flipped) add(t);
    const TriangleIndices near = triangles_near(x, surface.triangles, problem.active);
    for (const auto& pair : self_intersections(x, surface.triangles, &near)) {
        if (base_cuts.contains(pair)) continue;
        out.cuts.push_back(pair);
        add(pair.first), add(pair.second);
    }
    return out;
}

std::set<std::pair<Index, Index>> cuts_of_base(const WrapProblem& problem, const ProblemSurface& surface) {
    if (problem.base_cuts) return {problem.base_cuts->begin(), problem.base_cuts->end()};
    const Points& base = problem.base->positions;
    const TriangleIndices near = triangles_near(base, surface.triangles, problem.active);
    const auto pairs = self_intersections(base, surface.triangles, &near);
    return {pairs.begin(), pairs.end()};
}

std::set<Index> with_neighbours(const SurfaceStencil& stencil, const std::set<Index>& vertices) {
    std::set<Index> out = vertices;
    for (std::size_t r = 0; r < stencil.ring_vertex.size(); ++r) {
        if (vertices.contains(stencil.ring_vertex[r]))
            out.insert(stencil.neighbour.begin() + stencil.ring_start[r],
                       stencil.neighbour.begin() + stencil.ring_start[r + 1]);
    }
    return out;
}

Points blended(const SurfaceStencil& stencil, const Points& outer, const Points& inner, const std::set<Index>& near,
               int rings) {
    Points out = outer;
    for (const Index v : near) out[v] = inner[v];
    std::set<Index> reached = near;
    for (int ring = 0; ring < 2 * rings; ++ring) {
        const std::set<Index> before = reached;
        const double share = std::min(1.0, 2.0 - static_cast<double>(ring) / rings);
        reached = with_neighbours(stencil, reached);
        for (const Index v : reached) {
            if (!before.contains(v)) out[v] = outer[v] + share * (inner[v] - outer[v]);
        }
    }
    return out;
}

void take_back_faults(const WrapProblem& problem, const Points& before, Points& x) {
    const auto surface = surface_of(problem);
    const auto moved = [&](Index v) { return x[v] != before[v]; };
    const std::vector<Index>& skin = surface->stencil.vertex;
    if (std::none_of(skin.begin(), skin.end(), moved)) return;
    const auto base_cuts = cuts_of_base(problem, *surface);
    SurfaceFaults best = surface_faults(problem, *surface, base_cuts, x);
    for (int tries = 0; tries < kBackTries && best.weight() > 0; ++tries) {
        const int weight = best.weight();
        for (int rings = 1; rings <= kRingsBack && best.weight() == weight; rings *= 2) {
            for (const double back : {0.5, 1.0}) {
                Points inner = x;
                for (const Index v : skin) inner[v] += back * (before[v] - x[v]);
                Points now = blended(surface->stencil, x, inner, best.vertices, rings);
                SurfaceFaults faults = surface_faults(problem, *surface, base_cuts, now);
                if (faults.weight() >= best.weight()) continue;
                best = std::move(faults), x = std::move(now);
                break;
            }
        }
        if (best.weight() == weight) return;
    }
}

}  // namespace veld
