// Borders between photographs on a first skin: their levels solved for in the gradient domain.
#include <tbb/parallel_for.h>

#include "core/linalg/spd_solver.h"
#include "core/skin/skin_work.h"

namespace veld {
namespace {

constexpr double kAnchor = 1e-4, kFrontAnchor = 2e-3;

// The cells that some photograph won, their neighbours, and how one's colour follows from the other's.
struct SeamGrid {
    const SkinWork& w;
    std::vector<Index> cells;                    // of the grid
    std::vector<std::pair<Index, Index>> pairs;  // of neighbours, into cells
    Points own;                                  // per cell: its winner's colour

    explicit SeamGrid(const SkinWork& work) : w(work) {
        std::vector<Index> unknown(w.winner.size(), kNone);
        for (std::size_t i = 0; i < w.winner.size(); ++i) {
            if (w.winner[i] < 0) continue;
            unknown[i] = static_cast<Index>(cells.size());
            cells.push_back(static_cast<Index>(i));
        }
        own.resize(cells.size());
        tbb::parallel_for(std::size_t{0}, cells.size(), [&](std::size_t u) { own[u] = sample(label(u), cells[u]); });
        for (std::size_t u = 0; u < cells.size(); ++u) {
            if (cells[u] % kGrid + 1 < kGrid && unknown[cells[u] + 1] != kNone)
                pairs.emplace_back(u, unknown[cells[u] + 1]);
            if (cells[u] + kGrid < kGrid * kGrid && unknown[cells[u] + kGrid] != kNone)
                pairs.emplace_back(u, unknown[cells[u] + kGrid]);
        }
    }
    std::size_t label(std::size_t u) const { return static_cast<std::size_t>(w.winner[cells[u]]); }
    Vec3 sample(std::size_t label, Index i) const {
        return w.colour(label, w.triangle[i], w.bary[i], Vec2((i % kGrid + 0.5) / kGrid, (i / kGrid + 0.5) / kGrid));
    }
    // colour of b less that of a
    Vec3 wanted(Index a, Index b) const {
        const std::size_t la = label(a), lb = label(b);
        if (la == lb) return own[b] - own[a];
        Vec3 sum = Vec3::Zero();
        int count = 0;
        for (const std::size_t l : {la, lb}) {
            const bool sees = l + 1 == w.labels || (w.weight[l][cells[a]] > 0 && w.weight[l][cells[b]] > 0);
            if (sees) sum += sample(l, cells[b]) - sample(l, cells[a]), ++count;
        }
        return count > 0 ? Vec3(sum / count) : Vec3(Vec3::Zero());
    }
};

// Colours with the wanted steps between neighbours, near their own [Perez, Gangnet, Blake 2003].
Result<Points> solve_levels(const SeamGrid& grid) {
    SpdSolver solver(static_cast<Index>(grid.cells.size()), grid.pairs);
    Points rhs(grid.cells.size(), Vec3::Zero());
    std::vector<double>& values = solver.values();
    for (std::size_t u = 0; u < grid.cells.size(); ++u) {
        const double anchor = static_cast<int>(grid.label(u)) == 2 * grid.w.front ? kFrontAnchor : kAnchor;
        values[solver.slot(static_cast<Index>(u), static_cast<Index>(u))] += anchor;
        rhs[u] += anchor * grid.own[u];
    }
    for (const auto& [a, b] : grid.pairs) {
        const Vec3 g = grid.wanted(a, b);
        values[solver.slot(a, a)] += 1, values[solver.slot(b, b)] += 1, values[solver.slot(a, b)] -= 1;
        rhs[a] -= g, rhs[b] += g;
    }
    if (auto ok = solver.factor(); !ok) return ok.error();
    return solver.solve(rhs);
}

// What levelling changes, per winner, carried a few cells beyond its border.
void spread_changes(const SeamGrid& grid, const Points& solved, SkinWork& w) {
    w.change.assign(w.labels, std::vector<Vec3>(kGrid * kGrid, Vec3::Zero()));
    w.changed.assign(w.labels, std::vector<char>(kGrid * kGrid, 0));
    for (std::size_t u = 0; u < grid.cells.size(); ++u) {
        w.change[grid.label(u)][grid.cells[u]] = solved[u] - grid.own[u];
        w.changed[grid.label(u)][grid.cells[u]] = 1;
    }
    tbb::parallel_for(std::size_t{0}, w.labels, [&](std::size_t l) {
        for (int pass = 0; pass < 3; ++pass) {
            const std::vector<char> had = w.changed[l];
            for (int i = kGrid + 1; i + kGrid + 1 < kGrid * kGrid; ++i) {
                if (had[static_cast<std::size_t>(i)]) continue;
                Vec3 sum = Vec3::Zero();
                int count = 0;
                for (const int d : {-1, 1, -kGrid, kGrid}) {
                    if (had[static_cast<std::size_t>(i + d)])
                        sum += w.change[l][static_cast<std::size_t>(i + d)], ++count;
                }
                if (count == 0) continue;
                w.change[l][static_cast<std::size_t>(i)] = sum / count;
                w.changed[l][static_cast<std::size_t>(i)] = 1;
            }
        }
    });
}

}  // namespace

Status level_seams(SkinWork& w, bool blend, FirstSkin& out) {
    const SeamGrid grid(w);
    Points solved = grid.own;
    if (blend && !grid.cells.empty()) {
        auto levels = solve_levels(grid);
        if (!levels) return levels.error();
        solved = std::move(*levels);
    }
    double before = 0, after = 0;
    int seams = 0;
    for (const auto& [a, b] : grid.pairs) {
        if (grid.label(a) == grid.label(b)) continue;
        const Vec3 g = grid.wanted(a, b);
        before += (grid.own[b] - grid.own[a] - g).norm(), after += (solved[b] - solved[a] - g).norm(), ++seams;
    }
    if (seams > 0) out.seam_step_before = before / seams, out.seam_step = after / seams;
    spread_changes(grid, solved, w);
    return Done{};
}

}  // namespace veld
