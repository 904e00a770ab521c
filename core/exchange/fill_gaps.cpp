#include "core/exchange/fill_gaps.h"

#include <algorithm>

#include "core/kit/kit_surface.h"
#include "core/linalg/spd_solver.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kMergedShare = 0.45;  // of the distance to its usual neighbours: nearer was merged
constexpr std::size_t kFewest = 12;    // so many may always be filled
constexpr double kMostShare = 0.05;    // of the piece

struct Gap {
    std::vector<Index> vertices;
    bool has_rim = false;  // something beside it came back
};

std::vector<Gap> gaps_of(const Adjacency& next, const VertexMask& missing, const VertexMask& returned) {
    std::vector<Gap> out;
    VertexMask seen(missing.size(), 0);
    for (Index seed = 0; seed < missing.size(); ++seed) {
        if (!missing[seed] || seen[seed]) continue;
        Gap gap;
        gap.vertices.assign(1, seed);
        seen[seed] = 1;
        for (std::size_t i = 0; i < gap.vertices.size(); ++i) {
            for (const Index* j = next.begin(gap.vertices[i]); j != next.end(gap.vertices[i]); ++j) {
                gap.has_rim |= returned[*j] != 0;
                if (missing[*j] && !seen[*j]) seen[*j] = 1, gap.vertices.push_back(*j);
            }
        }
        out.push_back(std::move(gap));
    }
    return out;
}

// The neighbour that a vertex was merged with; kNone: it was not.
Index merged_with(const Points& base, const Adjacency& next, const VertexMask& returned, Index v) {
    Index nearest = kNone;
    double near = 1e300, sum = 0;
    for (const Index* j = next.begin(v); j != next.end(v); ++j) {
        const double d = (base[*j] - base[v]).norm();
        sum += d;
        if (returned[*j] && d < near) near = d, nearest = *j;
    }
    const auto count = static_cast<double>(next.end(v) - next.begin(v));
    return nearest != kNone && near < kMergedShare * sum / std::max(count, 1.0) ? nearest : kNone;
}

// Laplace's equation with the rim's changes as borders.
void fill_smoothly(const BaseKit& kit, const Adjacency& next, const std::vector<Index>& vertices,
                   const VertexMask& known, Points& positions) {
    const Points& base = kit.mesh.positions;
    std::map<Index, Index> slot;
    for (const Index v : vertices) slot.emplace(v, static_cast<Index>(slot.size()));
    std::vector<std::pair<Index, Index>> pattern;
    for (const auto& [v, i] : slot) {
        for (const Index* j = next.begin(v); j != next.end(v); ++j) {
            if (const auto at = slot.find(*j); at != slot.end()) pattern.emplace_back(i, at->second);
        }
    }
    SpdSolver solver(static_cast<Index>(slot.size()), std::move(pattern));
    Points right(slot.size(), Vec3::Zero());
    for (const auto& [v, i] : slot) {
        for (const Index* j = next.begin(v); j != next.end(v); ++j) {
            const auto at = slot.find(*j);
            if (at == slot.end() && !known[*j]) continue;
            const double weight = 1 / std::max((base[*j] - base[v]).norm(), 1e-6);
            solver.values()[solver.slot(i, i)] += weight;
            if (at == slot.end())
                right[i] += weight * (positions[*j] - base[*j]);
            else if (at->second < i)
                solver.values()[solver.slot(i, at->second)] -= weight;
        }
    }
    if (!solver.factor()) return;
    const Points change = solver.solve(right);
    for (const auto& [v, i] : slot) positions[v] = base[v] + change[i];
}

}  // namespace

VertexIndices fill_gaps(const BaseKit& kit, const std::vector<Index>& piece, const VertexMask& returned,
                        Points& positions, std::vector<ReturnStep>& steps) {
    VertexIndices out;
    VertexMask missing(positions.size(), 0), known = returned;
    for (const Index v : piece) missing[v] = !returned[v];
    if (std::find(missing.begin(), missing.end(), 1) == missing.end()) return out;
    const Adjacency& next = kit_neighbours(kit);
    const std::size_t most =
        std::max(kFewest, static_cast<std::size_t>(kMostShare * static_cast<double>(piece.size())));
    std::size_t merged = 0;
    for (const Gap& gap : gaps_of(next, missing, returned)) {
        if (!gap.has_rim || gap.vertices.size() > most) continue;
        std::vector<Index> deleted;
        for (const Index v : gap.vertices) {
            const Index partner = merged_with(kit.mesh.positions, next, returned, v);
            if (partner == kNone) {
                deleted.push_back(v);
                continue;
            }
            positions[v] = kit.mesh.positions[v] + (positions[partner] - kit.mesh.positions[partner]);
            known[v] = 1, ++merged;
        }
        fill_smoothly(kit, next, deleted, known, positions);
        out.insert(out.end(), gap.vertices.begin(), gap.vertices.end());
    }
    const auto said = [&](std::size_t n, const std::string& what, const std::string& why) {
        if (n) steps.push_back({std::to_string(n) + (n == 1 ? " vertex " : " vertices ") + what, why, true});
    };
    said(merged, "had been merged with a neighbour",
         "Each moves as the neighbour does that it was merged with; the base keeps it.");
    said(out.size() - merged, "did not come back",
         "They were deleted there; each takes the smooth change of what lies around it.");
    return out;
}

}  // namespace veld
