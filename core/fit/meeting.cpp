#include "core/fit/meeting.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "core/kit/kit_surface.h"
#include "core/linalg/spd_solver.h"

namespace veld {
namespace {

constexpr double kTouchMm = 0.8;       // two vertices that touch lie this near
constexpr double kApartMm = 1.6;       // and at rest no nearer than this,
constexpr double kApartTimes = 3;      // nor than this many times as near as in the shape
constexpr double kMovesMm = 0.5;       // one of them moves this far at least
constexpr double kGoesAlongMm = 0.05;  // skin that moves less stays where it is

std::int64_t cell_of(const Vec3& p) {
    const auto step = [](double x) { return static_cast<std::int64_t>(std::floor(x / kTouchMm)) & 0x1fffff; };
    return step(p.x()) << 42 | step(p.y()) << 21 | step(p.z());
}

}  // namespace

std::vector<Meeting> meetings_of(const BaseKit& kit, const Points& shape) {
    const Points& rest = kit.mesh.positions;
    const VertexIndices& skin = kit.part("skin")->vertices;
    VertexIndices moved;
    Eigen::AlignedBox3d around;  // only what is in it can meet
    for (const Index v : skin)
        if ((shape[v] - rest[v]).norm() >= kMovesMm) moved.push_back(v), around.extend(shape[v]);
    if (moved.empty()) return {};
    around.min().array() -= kTouchMm, around.max().array() += kTouchMm;
    std::unordered_map<std::int64_t, VertexIndices> cells;
    for (const Index v : skin)
        if (around.contains(shape[v])) cells[cell_of(shape[v])].push_back(v);
    std::vector<Meeting> out;
    for (const Index v : moved) {
        Index best = kNone;
        double least = kTouchMm;
        for (int i = 0; i < 27; ++i) {
            const Vec3 step(i % 3 - 1, i / 3 % 3 - 1, i / 9 - 1);
            const auto cell = cells.find(cell_of(shape[v] + kTouchMm * step));
            if (cell == cells.end()) continue;
            for (const Index w : cell->second) {
                const double now = (shape[w] - shape[v]).norm(), before = (rest[w] - rest[v]).norm();
                if (w != v && now < least && before > kApartMm && before > kApartTimes * now) least = now, best = w;
            }
        }
        if (best != kNone) out.push_back({v, best});
    }
    return out;
}

Points closing_ways(const BaseKit& kit, const std::vector<Meeting>& meetings, const Points& wanted, const Points& rest,
                    const Points& moved) {
    Points out(rest.size(), Vec3::Zero());
    std::vector<double> share(rest.size(), 0);
    const auto moves = [&](Index v) { return (moved[v] - rest[v]).norm(); };
    for (std::size_t m = 0; m < meetings.size(); ++m) {
        const auto [a, b] = meetings[m];
        const double all = moves(a) + moves(b);
        if (!(all > 0)) continue;
        const Vec3 missing = wanted[m] - (moved[b] - moved[a]);
        out[a] -= missing * (moves(a) / all), out[b] += missing * (moves(b) / all);
        ++share[a], ++share[b];
    }
    // held: what meets, and what does not move; between them harmonic
    const Adjacency& ways = kit_neighbours(kit);
    std::vector<Index> row(rest.size(), kNone);
    VertexIndices free;
    for (const Index v : kit.part("skin")->vertices) {
        if (share[v] > 0)
            out[v] /= share[v];
        else if (moves(v) >= kGoesAlongMm)
            row[v] = static_cast<Index>(free.size()), free.push_back(v);
    }
    if (meetings.empty() || free.empty()) return out;
    std::vector<std::pair<Index, Index>> entries;
    for (const Index v : free) {
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n) {
            if (row[*n] != kNone && *n > v) entries.emplace_back(row[v], row[*n]);
        }
    }
    SpdSolver solver(static_cast<Index>(free.size()), std::move(entries));
    Points right(free.size(), Vec3::Zero());
    std::fill(solver.values().begin(), solver.values().end(), 0.0);
    for (const Index v : free) {
        const Index i = row[v];
        double sum = 1e-9;  // an island that nothing holds stays
        for (const Index* n = ways.begin(v); n != ways.end(v); ++n) {
            const double w = 1 / std::max(1e-3, (rest[*n] - rest[v]).norm());
            sum += w;
            if (row[*n] == kNone)
                right[i] += w * out[*n];
            else if (*n > v)
                solver.values()[solver.slot(i, row[*n])] -= w;
        }
        solver.values()[solver.slot(i, i)] += sum;
    }
    if (!solver.factor()) return out;
    const Points between = solver.solve(right);
    for (const Index v : free) out[v] = between[row[v]];
    return out;
}

}  // namespace veld
