#include "core/exchange/leftovers.h"

#include <tbb/parallel_for.h>

#include <Eigen/Cholesky>
#include <algorithm>
#include <cmath>
#include <set>

#include "core/kit/kit_surface.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr int kSearchRounds = 60;
constexpr double kLeastMm = 1e-6;  // below this a residual is none
constexpr double kRidge = 1e-8;
constexpr int kLeftoverRings = 3;
constexpr std::size_t kMostFound = 24;                     // more than this was never left on by mistake
constexpr double kLeastGainMm = 0.05, kLeastShare = 0.15;  // that a shape must explain, of the sum over its vertices

// How each vertex would move if it went along with its surroundings, bent as evenly as they are: weights over these. A
// sculptor's broad changes are of this kind, an expression's creases are not.
struct Surroundings {
    std::vector<Index> vertex;
    std::vector<double> weight;
};

std::vector<Index> rings_around(const Adjacency& next, Index v) {
    std::set<Index> out{v};
    for (int ring = 0; ring < kLeftoverRings; ++ring) {
        std::vector<Index> rim(out.begin(), out.end());
        for (const Index i : rim) out.insert(next.begin(i), next.end(i));
    }
    out.erase(v);
    return {out.begin(), out.end()};
}

using QuadraticRow = Eigen::Matrix<double, 10, 1>;  // 1, x, y, z and their products

Surroundings even_move(const Points& x, const Adjacency& next, Index v, const VertexMask& known) {
    Surroundings out;
    double size = 0;
    for (const Index j : rings_around(next, v)) {
        if (!known[j]) return {};
        out.vertex.push_back(j);
        size += (x[j] - x[v]).squaredNorm();
    }
    if (out.vertex.size() < 15) return {};
    size = std::sqrt(size / static_cast<double>(out.vertex.size()));
    Eigen::Matrix<double, 10, 10> m = Eigen::Matrix<double, 10, 10>::Zero();
    std::vector<QuadraticRow> rows;
    for (const Index j : out.vertex) {
        const Vec3 d = (x[j] - x[v]) / size;
        QuadraticRow row;
        row << 1, d.x(), d.y(), d.z(), d.x() * d.x(), d.y() * d.y(), d.z() * d.z(), d.x() * d.y(), d.y() * d.z(),
            d.z() * d.x();
        rows.push_back(row);
        m += row * row.transpose();
    }
    // flat surroundings say nothing about the way out of them
    m.bottomRightCorner<9, 9>().diagonal().array() += kRidge * static_cast<double>(rows.size());
    const QuadraticRow at = m.ldlt().solve(QuadraticRow::Unit(0));
    for (const QuadraticRow& row : rows) out.weight.push_back(at.dot(row));
    return out;
}

Points uneven(const Points& delta, const std::vector<Surroundings>& around) {
    Points out(delta.size(), Vec3::Zero());
    for (Index v = 0; v < delta.size(); ++v) {
        if (around[v].vertex.empty()) continue;
        out[v] = delta[v];
        for (std::size_t k = 0; k < around[v].vertex.size(); ++k)
            out[v] -= around[v].weight[k] * delta[around[v].vertex[k]];
    }
    return out;
}

// The shapes' uneven parts, each as its few vertices.
struct Column {
    std::vector<Index> vertex;
    Points value;
};

Column sparse(const Points& full) {
    Column out;
    for (Index v = 0; v < full.size(); ++v) {
        if (full[v].norm() > kLeastMm) out.vertex.push_back(v), out.value.push_back(full[v]);
    }
    return out;
}

double explained(const Column& c, const Points& rest, double amount) {
    double gain = 0;
    for (std::size_t i = 0; i < c.vertex.size(); ++i)
        gain += rest[c.vertex[i]].norm() - (rest[c.vertex[i]] - amount * c.value[i]).norm();
    return gain;
}

// One amount alone, by least absolute deviations.
double best_amount(const Column& c, const Points& rest) {
    double amount = 0;
    for (int round = 0; round < kSearchRounds; ++round) {
        double left = 1e-12, right = 0;
        for (std::size_t i = 0; i < c.vertex.size(); ++i) {
            const double weight = 1 / std::max((rest[c.vertex[i]] - amount * c.value[i]).norm(), kLeastMm);
            left += weight * c.value[i].squaredNorm(), right += weight * c.value[i].dot(rest[c.vertex[i]]);
        }
        const double now = right / left, moved = std::abs(now - amount);
        amount = now;
        if (moved < 1e-6) break;
    }
    return amount;
}

// All selected amounts together, from where they are.
void refit(const Points& seen, const VertexMask& touched, const std::vector<Points>& columns,
           const std::vector<std::size_t>& selected, Eigen::VectorXd& amount) {
    const auto n = static_cast<Eigen::Index>(selected.size());
    for (int round = 0; round < kSearchRounds; ++round) {
        Eigen::MatrixXd left = 1e-12 * Eigen::MatrixXd::Identity(n, n);
        Eigen::VectorXd right = Eigen::VectorXd::Zero(n);
        for (Index v = 0; v < seen.size(); ++v) {
            if (!touched[v]) continue;
            Vec3 rest = seen[v];
            for (Eigen::Index k = 0; k < n; ++k) rest -= amount[k] * columns[selected[static_cast<std::size_t>(k)]][v];
            const double weight = 1 / std::max(rest.norm(), kLeastMm);
            for (Eigen::Index k = 0; k < n; ++k) {
                const Vec3& c = columns[selected[static_cast<std::size_t>(k)]][v];
                right[k] += weight * c.dot(seen[v]);
                for (Eigen::Index l = 0; l <= k; ++l)
                    left(k, l) += weight * c.dot(columns[selected[static_cast<std::size_t>(l)]][v]);
            }
        }
        const Eigen::VectorXd now = left.selfadjointView<Eigen::Lower>().ldlt().solve(right);
        const double moved = (now - amount).cwiseAbs().maxCoeff();
        amount = now;
        if (moved < 1e-7) break;
    }
}

std::vector<LeftoverAmount> pursue(const Points& seen, const VertexMask& touched, const std::vector<Points>& full) {
    std::vector<Column> columns;
    for (const Points& c : full) columns.push_back(sparse(c));
    std::vector<LeftoverAmount> out(full.size());
    std::vector<std::size_t> selected;
    Eigen::VectorXd amount;
    Points rest = seen;
    const auto leave = [&](const Eigen::VectorXd& a) {
        rest = seen;
        for (std::size_t k = 0; k < selected.size(); ++k) {
            const Column& c = columns[selected[k]];
            for (std::size_t i = 0; i < c.vertex.size(); ++i)
                rest[c.vertex[i]] -= a[static_cast<Eigen::Index>(k)] * c.value[i];
        }
    };
    while (selected.size() < std::min<std::size_t>(full.size(), kMostFound)) {
        std::vector<double> gain(full.size(), 0);
        tbb::parallel_for(std::size_t{0}, full.size(), [&](std::size_t k) {
            if (std::find(selected.begin(), selected.end(), k) == selected.end())
                gain[k] = explained(columns[k], rest, best_amount(columns[k], rest));
        });
        const auto best = static_cast<std::size_t>(std::max_element(gain.begin(), gain.end()) - gain.begin());
        const double a = best_amount(columns[best], rest);
        double own = 0;
        for (const Vec3& v : columns[best].value) own += std::abs(a) * v.norm();
        if (!(gain[best] > kLeastGainMm) || gain[best] < kLeastShare * own) break;
        selected.push_back(best);
        Eigen::VectorXd longer(static_cast<Eigen::Index>(selected.size()));
        longer << amount, a;
        amount = longer;
        refit(seen, touched, full, selected, amount);
        leave(amount);
    }
    for (std::size_t k = 0; k < selected.size(); ++k) {
        const Column& c = columns[selected[k]];
        const double a = amount[static_cast<Eigen::Index>(k)];
        double with = 0, without = 0, own = 0;
        for (std::size_t i = 0; i < c.vertex.size(); ++i) {
            with += rest[c.vertex[i]].norm(), without += (rest[c.vertex[i]] + a * c.value[i]).norm(),
                own += std::abs(a) * c.value[i].norm();
        }
        out[selected[k]] = {a, own > 0 ? std::max(0.0, (without - with) / own) : 0.0};
    }
    return out;
}

}  // namespace

std::vector<LeftoverAmount> leftover_amounts(const BaseKit& kit, const Points& delta, const VertexMask& returned,
                                             const std::vector<const Morph*>& shapes) {
    const Adjacency& next = kit_neighbours(kit);
    VertexMask touched(delta.size(), 0);
    for (const Morph* m : shapes) {
        for (const Index v : m->index) touched[v] = returned[v];
    }
    std::vector<Surroundings> around(delta.size());
    tbb::parallel_for(std::size_t{0}, delta.size(), [&](std::size_t v) {
        if (touched[v]) around[v] = even_move(kit.mesh.positions, next, static_cast<Index>(v), returned);
    });
    const Points seen = uneven(delta, around);
    std::vector<Points> columns;
    for (const Morph* m : shapes) {
        Points full(delta.size(), Vec3::Zero());
        for (std::size_t i = 0; i < m->index.size(); ++i) full[m->index[i]] = m->delta[i];
        columns.push_back(uneven(full, around));
    }
    return pursue(seen, touched, columns);
}

}  // namespace veld
