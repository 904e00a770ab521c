#include "core/skin/tone.h"

#include <cmath>

#include "core/linalg/spd_solver.h"
#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr Index kLeastVertices = 30;
constexpr double kKeepsTo = 0.004;  // a vertex to its region, against its edges: over about 16 edges
constexpr double kLoose = 1e-7;     // the same where the region says nothing
constexpr double kMostTone = 1.6;   // of a logarithm

}  // namespace

Vec3 mean_tone(const std::vector<Vec3>& values) {
    Vec3 mean;
    for (int axis = 0; axis < 3; ++axis) {
        std::vector<double> one;
        for (const Vec3& v : values) one.push_back(v[axis]);
        mean[axis] = median(std::move(one));
    }
    for (int round = 0; round < 5; ++round) {
        Vec3 sum = Vec3::Zero();
        double all = 0;
        for (const Vec3& v : values) {
            const double weight = geman_mcclure((v - mean).norm(), 0.3);
            sum += weight * v, all += weight;
        }
        if (all > 0) mean = sum / all;
    }
    return mean;
}

Result<ToneField> tone_field(const BakeSurface& base, const std::vector<std::optional<Vec3>>& first,
                             const std::vector<std::optional<Vec3>>& second) {
    ToneField out;
    const auto count = static_cast<Index>(base.positions.size());
    std::vector<std::vector<Vec3>> of_region(base.region_names.size());
    std::vector<Vec3> all;
    for (Index v = 0; v < count; ++v) {
        if (!first[v] || !second[v]) continue;
        const Vec3 off = (*first[v] - *second[v]).cwiseMax(-kMostTone).cwiseMin(kMostTone);
        of_region[base.region[v]].push_back(off), all.push_back(off);
    }
    out.log.assign(count, Vec3::Zero());
    if (all.size() < kLeastVertices) return out;
    const Vec3 overall = mean_tone(all);
    std::vector<Vec3> wanted(of_region.size(), overall);
    std::vector<double> keeps(of_region.size(), kLoose);
    for (std::size_t r = 0; r < of_region.size(); ++r) {
        if (of_region[r].size() < kLeastVertices) continue;
        wanted[r] = mean_tone(of_region[r]), keeps[r] = kKeepsTo;
        out.regions.push_back({base.region_names[r], wanted[r], static_cast<Index>(of_region[r].size())});
    }
    const Adjacency ways = vertex_neighbours(base.triangles, count);
    std::vector<std::pair<Index, Index>> pairs;
    for (Index v = 0; v < count; ++v) {
        for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
            if (*w > v) pairs.emplace_back(v, *w);
        }
    }
    SpdSolver solver(count, pairs);
    Points rhs(count, Vec3::Zero());
    for (Index v = 0; v < count; ++v) {
        const double keep = keeps[base.region[v]];
        solver.values()[solver.slot(v, v)] += keep + static_cast<double>(ways.end(v) - ways.begin(v));
        rhs[v] = keep * wanted[base.region[v]];
    }
    for (const auto& [a, b] : pairs) solver.values()[solver.slot(a, b)] -= 1;
    if (auto ok = solver.factor(); !ok) return ok.error();
    out.log = solver.solve(rhs);
    return out;
}

}  // namespace veld
