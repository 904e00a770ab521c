#include "core/linalg/spd_solver.h"

#include <suitesparse/cholmod.h>
#include <algorithm>
#include <cmath>
#include <cstring>

#include "core/linalg/sort_in_rows.h"

// OpenBLAS, where it is the BLAS. Weak: any other BLAS links as well.
extern "C" __attribute__((weak)) void openblas_set_num_threads(int);

namespace veld {
namespace {

// The fronts of a surface's factor are small: a second thread gains a tenth, but its busy waiting costs
// many times the whole factor when another program wants the core.
void use_one_blas_thread() {
    static const bool once = [] {
        if (openblas_set_num_threads) openblas_set_num_threads(1);
        return true;
    }();
    (void)once;
}

constexpr double kHopeless = 10;  // conjugate gradients get quicker as they go

}  // namespace

struct SpdSolver::Inside {
    cholmod_common common{};
    cholmod_sparse matrix{};
    cholmod_factor* symbolic_and_numeric = nullptr;
    std::vector<int> column_start, row;  // lower triangle, rows ascending
    std::vector<double> value;

    Inside() {
        use_one_blas_thread();
        cholmod_start(&common);
        common.supernodal = CHOLMOD_SUPERNODAL;
        common.print = 0;
        common.nmethods = 1;
        common.method[0].ordering = CHOLMOD_METIS;
        common.postorder = 1;
    }
    ~Inside() {
        if (symbolic_and_numeric) cholmod_free_factor(&symbolic_and_numeric, &common);
        cholmod_finish(&common);
    }
};

SpdSolver::SpdSolver(Index size, std::vector<std::pair<Index, Index>> entries) : inside_(std::make_unique<Inside>()) {
    Inside& in = *inside_;
    for (auto& [i, j] : entries) {
        if (i > j) std::swap(i, j);  // first: column, second: row >= column
    }
    for (Index i = 0; i < size; ++i) entries.emplace_back(i, i);
    sort_in_rows(
        entries, size, [](const auto& e) { return e.first; },
        [](const auto& a, const auto& b) { return a.second < b.second; });
    entries.erase(std::unique(entries.begin(), entries.end()), entries.end());
    in.column_start.assign(size + 1, 0);
    in.row.reserve(entries.size());
    for (const auto& [column, row] : entries) {
        ++in.column_start[column + 1];
        in.row.push_back(static_cast<int>(row));
    }
    for (Index i = 0; i < size; ++i) in.column_start[i + 1] += in.column_start[i];
    in.value.assign(in.row.size(), 0.0);
    in.matrix.nrow = in.matrix.ncol = size;
    in.matrix.nzmax = in.row.size();
    in.matrix.p = in.column_start.data();
    in.matrix.i = in.row.data();
    in.matrix.x = in.value.data();
    in.matrix.stype = -1;
    in.matrix.itype = CHOLMOD_INT;
    in.matrix.xtype = CHOLMOD_REAL;
    in.matrix.dtype = CHOLMOD_DOUBLE;
    in.matrix.sorted = in.matrix.packed = 1;
    in.symbolic_and_numeric = cholmod_analyze(&in.matrix, &in.common);
}

SpdSolver::~SpdSolver() = default;
SpdSolver::SpdSolver(SpdSolver&&) noexcept = default;
SpdSolver& SpdSolver::operator=(SpdSolver&&) noexcept = default;

Index SpdSolver::slot(Index i, Index j) const {
    if (i > j) std::swap(i, j);
    const auto first = inside_->row.begin() + inside_->column_start[i];
    const auto last = inside_->row.begin() + inside_->column_start[i + 1];
    return static_cast<Index>(std::lower_bound(first, last, static_cast<int>(j)) - inside_->row.begin());
}

std::vector<double>& SpdSolver::values() { return inside_->value; }

Status SpdSolver::factor() {
    Inside& in = *inside_;
    if (!in.symbolic_and_numeric)
        return Error{ErrorCode::DegenerateInput, "The system could not be analysed (out of memory?)."};
    cholmod_factorize(&in.matrix, in.symbolic_and_numeric, &in.common);
    if (in.common.status != CHOLMOD_OK) {
        return Error{ErrorCode::DegenerateInput,
                     "The fit's equations have no single solution: too few landmarks and no surface near the base. "
                     "Mark more points or check the source's unit."};
    }
    return Done{};
}

Points SpdSolver::solve(const Points& right_hand_side) const {
    Inside& in = *inside_;
    const std::size_t n = right_hand_side.size();
    cholmod_dense* b = cholmod_allocate_dense(n, 3, n, CHOLMOD_REAL, &in.common);
    auto* x = static_cast<double*>(b->x);
    for (std::size_t i = 0; i < n; ++i) {
        for (std::size_t k = 0; k < 3; ++k) x[k * n + i] = right_hand_side[i][static_cast<int>(k)];
    }
    cholmod_dense* y = cholmod_solve(CHOLMOD_A, in.symbolic_and_numeric, b, &in.common);
    Points out(n);
    const auto* values = static_cast<const double*>(y->x);
    for (std::size_t i = 0; i < n; ++i) out[i] = Vec3(values[i], values[n + i], values[2 * n + i]);
    cholmod_free_dense(&b, &in.common);
    cholmod_free_dense(&y, &in.common);
    return out;
}

// The matrix as its values are now, times x.
Points SpdSolver::times(const Points& x) const {
    const Inside& in = *inside_;
    Points out(x.size(), Vec3::Zero());
    for (std::size_t column = 0; column < x.size(); ++column) {
        Vec3 sum = Vec3::Zero();
        for (int k = in.column_start[column]; k < in.column_start[column + 1]; ++k) {
            const auto row = static_cast<std::size_t>(in.row[static_cast<std::size_t>(k)]);
            const double v = in.value[static_cast<std::size_t>(k)];
            sum += v * x[row];
            if (row != column) out[row] += v * x[column];
        }
        out[column] += sum;
    }
    return out;
}

// Three systems side by side, each with steps of its own [Hestenes & Stiefel 1952].
std::optional<Points> SpdSolver::solve_near(const Points& right_hand_side, const Points& guess, double to,
                                            int most) const {
    const std::size_t n = right_hand_side.size();
    const auto dots = [&](const Points& a, const Points& b) {
        Eigen::Array3d sum = Eigen::Array3d::Zero();
        for (std::size_t i = 0; i < n; ++i) sum += a[i].array() * b[i].array();
        return sum;
    };
    const auto ratio = [](const Eigen::Array3d& a, const Eigen::Array3d& b) {
        return Eigen::Array3d((b.abs() > 0).select(a / b, 0.0));
    };
    Points x = guess, left = times(guess);
    for (std::size_t i = 0; i < n; ++i) left[i] = right_hand_side[i] - left[i];
    Points step = solve(left), way = step;
    Eigen::Array3d along = dots(left, step);
    double before = 0;
    for (int k = 0; k <= most; ++k) {
        double most_moved = 0;
        for (const Vec3& s : step) most_moved = std::max(most_moved, s.cwiseAbs().maxCoeff());
        if (most_moved < to) {
            for (std::size_t i = 0; i < n; ++i) x[i] += step[i];
            return x;
        }
        // at this pace it takes more steps than that
        if (k == most || (k > 0 && most_moved * std::pow(most_moved / before, most - k) > kHopeless * to)) break;
        before = most_moved;
        const Points turned = times(way);
        const Eigen::Array3d far = ratio(along, dots(way, turned));
        for (std::size_t i = 0; i < n; ++i) {
            x[i].array() += far * way[i].array();
            left[i].array() -= far * turned[i].array();
        }
        step = solve(left);
        const Eigen::Array3d next = dots(left, step), keep = ratio(next, along);
        for (std::size_t i = 0; i < n; ++i) way[i] = step[i] + (keep * way[i].array()).matrix();
        along = next;
    }
    return {};
}

}  // namespace veld
