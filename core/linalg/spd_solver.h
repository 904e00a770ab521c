#pragma once
// Sparse symmetric positive definite systems whose pattern stays while the numbers change.
//
// Supernodal Cholesky of CHOLMOD [Chen, Davis, Hager, Rajamanickam 2008]. The symbolic part is done
// once in the constructor; factor() and solve() then run as often as wanted.
#include <memory>
#include <optional>
#include <vector>

#include "core/base/result.h"
#include "core/base/types.h"

namespace veld {

class SpdSolver {
 public:
    // entries: (row, column) pairs of the pattern, any triangle, duplicates allowed; the diagonal is
    // always in.
    SpdSolver(Index size, std::vector<std::pair<Index, Index>> entries);
    ~SpdSolver();
    SpdSolver(SpdSolver&&) noexcept;
    SpdSolver& operator=(SpdSolver&&) noexcept;

    // Where the entry (i, j) = (j, i) lives in values().
    Index slot(Index i, Index j) const;
    std::vector<double>& values();

    // Fails with DegenerateInput when the matrix is not positive definite.
    Status factor();
    // three right-hand sides at once
    Points solve(const Points& right_hand_side) const;
    // The same for values that changed since factor(): conjugate gradients from `guess`, preconditioned by that
    // factor, until a step would move nothing by more than `to`. Nothing when that takes more than `most` steps.
    std::optional<Points> solve_near(const Points& right_hand_side, const Points& guess, double to, int most) const;

 private:
    Points times(const Points& x) const;
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

}  // namespace veld
