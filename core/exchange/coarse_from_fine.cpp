#include "core/exchange/coarse_from_fine.h"

#include "core/linalg/spd_solver.h"

namespace veld {

Result<Points> coarse_from_fine(const Subdivided& fine, const std::vector<Vec3>& sum, const std::vector<Index>& count,
                                const Points& base) {
    std::vector<std::pair<Index, Index>> pattern;
    for (std::size_t v = 0; v < count.size(); ++v) {
        const auto r = fine.row(v);
        for (std::size_t a = 0; a < r.count; ++a) {
            for (std::size_t b = 0; b <= a; ++b) pattern.emplace_back(r.vertex[a], r.vertex[b]);
        }
    }
    SpdSolver solver(static_cast<Index>(base.size()), std::move(pattern));
    Points right(base.size(), Vec3::Zero());
    std::vector<double>& values = solver.values();
    for (Index v = 0; v < base.size(); ++v) values[solver.slot(v, v)] += 1e-12, right[v] += 1e-12 * base[v];
    for (std::size_t v = 0; v < count.size(); ++v) {
        if (!count[v]) continue;
        const auto r = fine.row(v);
        const Vec3 target = sum[v] / count[v];
        for (std::size_t a = 0; a < r.count; ++a) {
            right[r.vertex[a]] += r.weight[a] * target;
            for (std::size_t b = 0; b <= a; ++b)
                values[solver.slot(r.vertex[a], r.vertex[b])] += r.weight[a] * r.weight[b];
        }
    }
    if (auto ok = solver.factor(); !ok) return ok.error();
    return solver.solve(right);
}

}  // namespace veld
