#pragma once
// Known heads (known_heads.h) as a linear Gaussian model of one head:
//
//   x = base + mean + sum_k z_k mode_k + P q + rest,   z, q ~ N(0, 1),  rest ~ N(0, beyond^2), alike within kAlikeMm
//
// P q: a small move, turn and change of size, since a placement by half a head differs from one by all of it. What is
// not seen follows from what is by the posterior [Albrecht, Luethi, Gerig, Vetter 2013, Posterior shape models].
#include <Eigen/Core>

#include "core/kit/base_kit.h"

namespace veld {

struct HeadModel {
    // kit.known_heads must be there.
    explicit HeadModel(const BaseKit& kit);
    Eigen::VectorXd mean;     // 3 rows a vertex of known_heads
    Eigen::MatrixXd columns;  // components, then those of P
    // How many independent places each vertex of known_heads stands for: its area in patches that differ together.
    std::vector<double> patches(const BaseKit& kit, const std::vector<double>& weight) const;
    // Per vertex of the base, mm: one deviation of its true place, all directions alike. information: of the
    // posterior, the prior's 1 in it.
    std::vector<double> deviations(const BaseKit& kit, const Eigen::MatrixXd& information) const;
};

}  // namespace veld
