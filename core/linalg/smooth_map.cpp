#include "core/linalg/smooth_map.h"

#include <Eigen/Dense>
#include <cmath>

#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kLength = 100;  // mm: in about the size of a head the system is well scaled
constexpr int kSmoothingRounds = 6;

}  // namespace

SmoothMap::SmoothMap(const Points& from, const Points& to, const std::vector<double>& weights, double smooth_mm) {
    const Eigen::Index n = static_cast<Eigen::Index>(from.size());
    if (n < 5) {
        weights_ = Eigen::Matrix<double, Eigen::Dynamic, 3>::Zero(4, 3);
        for (std::size_t i = 0; i < from.size(); ++i)
            weights_.row(0) += (to[i] - from[i]).transpose() / static_cast<double>(n);
        for (std::size_t i = 0; i < from.size(); ++i) residuals_.push_back(((*this)(from[i]) - to[i]).norm());
        return;
    }
    Eigen::MatrixXd system = Eigen::MatrixXd::Zero(n + 4, n + 4);
    Eigen::MatrixXd right = Eigen::MatrixXd::Zero(n + 4, 3);
    for (const Vec3& p : from) centres_.push_back(p / kLength);
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto at = static_cast<std::size_t>(i);
        for (Eigen::Index j = 0; j < n; ++j)
            system(i, j) = (centres_[at] - centres_[static_cast<std::size_t>(j)]).norm();
        system(i, n) = 1;
        system.block<1, 3>(i, n + 1) = centres_[at].transpose();
        right.row(i) = (to[at] - from[at]).transpose();
    }
    system.block(n, 0, 4, n) = system.block(0, n, n, 4).transpose();
    std::vector<double> robust(from.size(), 1.0);
    residuals_.assign(from.size(), 0.0);
    for (int round = 0; round < kSmoothingRounds; ++round) {
        Eigen::MatrixXd now = system;
        // -|r| is conditionally positive definite: the smoothing term takes the minus sign
        for (Eigen::Index i = 0; i < n; ++i) {
            const auto at = static_cast<std::size_t>(i);
            now(i, i) -= smooth_mm / 10 / ((weights.empty() ? 1.0 : weights[at]) * robust[at]);
        }
        weights_ = now.partialPivLu().solve(right);
        for (std::size_t i = 0; i < from.size(); ++i) residuals_[i] = ((*this)(from[i]) - to[i]).norm();
        const double limit = std::max(2.5 * median(residuals_), 1.0);
        for (std::size_t i = 0; i < from.size(); ++i) {
            const double t = residuals_[i] / limit, w = 1 / (1 + t * t);
            robust[i] = std::max(w * w, 1e-3);
        }
    }
}

Vec3 SmoothMap::operator()(const Vec3& p) const {
    const Vec3 x = p / kLength;
    const Eigen::Index n = static_cast<Eigen::Index>(centres_.size());
    Vec3 out = p + weights_.row(n).transpose() + weights_.bottomRows(3).transpose() * x;
    for (Eigen::Index i = 0; i < n; ++i)
        out += (x - centres_[static_cast<std::size_t>(i)]).norm() * weights_.row(i).transpose();
    return out;
}

}  // namespace veld
