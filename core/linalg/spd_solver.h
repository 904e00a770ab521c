#pragma once
// Sparse symmetric positive definite systems whose pattern stays while the numbers change.
//
// Supernodal Cholesky of CHOLMOD [Chen, Davis, Hager, Rajamanickam 2008]. The symbolic part is done
// once in the constructor; factor() and solve() then run as often as wanted.
#include <memory>
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

 private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

}  // namespace veld
