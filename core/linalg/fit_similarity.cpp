#include "core/linalg/fit_similarity.h"

#include <Eigen/SVD>
#include <cmath>

#include "core/linalg/statistics.h"

namespace veld {
namespace {

// One weighted closed-form fit; degenerate when the points span no plane.
bool weighted_fit(const Points& from, const Points& to, const std::vector<double>& w, bool scale, Similarity& out) {
    double total = 0;
    Vec3 cp = Vec3::Zero(), cq = Vec3::Zero();
    for (std::size_t i = 0; i < from.size(); ++i) {
        total += w[i];
        cp += w[i] * from[i];
        cq += w[i] * to[i];
    }
    if (!(total > 0)) return false;
    cp /= total;
    cq /= total;
    Mat3 cross = Mat3::Zero(), spread_p = Mat3::Zero();
    double variance = 0;
    for (std::size_t i = 0; i < from.size(); ++i) {
        const Vec3 p = from[i] - cp, q = to[i] - cq;
        cross += w[i] * q * p.transpose();
        spread_p += w[i] * p * p.transpose();
        variance += w[i] * p.squaredNorm();
    }
    const Eigen::JacobiSVD<Mat3> shape(spread_p);
    const Vec3 extent = shape.singularValues();
    if (!(extent[0] > 0) || extent[1] < 1e-6 * extent[0]) return false;
    const Eigen::JacobiSVD<Mat3> svd(cross, Eigen::ComputeFullU | Eigen::ComputeFullV);
    if (svd.singularValues()[1] < 1e-9 * svd.singularValues()[0]) return false;
    Vec3 sign(1, 1, svd.matrixU().determinant() * svd.matrixV().determinant() < 0 ? -1 : 1);
    out.rotation = svd.matrixU() * sign.asDiagonal() * svd.matrixV().transpose();
    out.scale = scale ? svd.singularValues().dot(sign) / variance : 1.0;
    out.translation = cq - out.scale * (out.rotation * cp);
    return out.scale > 0 && std::isfinite(out.scale);
}

}  // namespace

Result<Similarity> fit_similarity(const Points& from, const Points& to, const SimilarityOptions& options) {
    const Error degenerate{ErrorCode::DegenerateInput,
                           "The points lie on one line (or at one place), so the turn cannot be found. "
                           "Mark at least three that span the face, for example both outer eye corners and the chin."};
    if (from.size() != to.size() || from.size() < 3) {
        return Error{ErrorCode::DegenerateInput,
                     "Only " + std::to_string(std::min(from.size(), to.size())) +
                         " points are marked on both; at least three are needed, ten make a good start."};
    }
    std::vector<double> base = options.weights.empty() ? std::vector<double>(from.size(), 1.0) : options.weights;
    std::vector<double> w = base;
    Similarity out;
    if (!weighted_fit(from, to, w, options.allow_scale, out)) return degenerate;
    if (!(options.outlier_mm > 0)) return out;
    for (int round = 0; round < 30; ++round) {
        std::vector<double> residual(from.size());
        for (std::size_t i = 0; i < from.size(); ++i) residual[i] = (out(from[i]) - to[i]).norm();
        // begin wide, so that a start far off is not frozen in
        const double scale = std::max(options.outlier_mm, 3.0 * median(residual) * std::pow(0.8, round));
        for (std::size_t i = 0; i < from.size(); ++i) w[i] = base[i] * geman_mcclure(residual[i], scale);
        Similarity next;
        if (!weighted_fit(from, to, w, options.allow_scale, next)) return degenerate;
        out = next;
    }
    return out;
}

}  // namespace veld
