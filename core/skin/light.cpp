#include "core/skin/light.h"

#include <Eigen/Dense>
#include <cmath>

#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kDarkest = 0.01;   // added to a colour before its logarithm
constexpr double kClosed = 0.05;    // the same for how open a place is
constexpr double kPatch = 0.3;      // a residual of the logarithm that counts a quarter
constexpr double kCalm = 2e-3;      // of every term but the tone, against all places together
constexpr double kMostLight = 1.8;  // of a logarithm: beyond, nothing is left to bring back
constexpr int kRounds = 12;

double luminance(const Vec3& v) { return 0.2126 * v[0] + 0.7152 * v[1] + 0.0722 * v[2]; }

}  // namespace

SkinLight::Terms SkinLight::terms(const Vec3& n, double open) {
    const double x = n.x(), y = n.y(), z = n.z(), hollow = std::log((open + kClosed) / (1 + kClosed));
    Terms out;
    out << 1, x, y, z, x * y, y * z, x * z, x * x - y * y, 3 * z * z - 1, x * x * x, y * y * y, z * z * z, x * x * y,
        x * x * z, y * y * x, y * y * z, z * z * x, z * z * y, x * y * z, hollow, x * hollow, y * hollow, z * hollow;
    return out;
}

SkinLight SkinLight::of(const std::vector<LitPlace>& places) {
    SkinLight out;
    if (places.size() < kLeastPlaces) return out;
    std::vector<Terms> rows;
    std::vector<Vec3> logs;
    std::vector<double> weight;
    double all = 0;
    for (const LitPlace& p : places) {
        rows.push_back(terms(p.normal, p.open));
        logs.push_back((p.colour.array() + kDarkest).log().matrix());
        weight.push_back(p.area);
        all += p.area;
    }
    for (int round = 0; round < kRounds; ++round) {
        Eigen::Matrix<double, kTerms, kTerms> a = kCalm * all * Eigen::Matrix<double, kTerms, kTerms>::Identity();
        a(0, 0) = 0;
        Eigen::Matrix<double, kTerms, 3> b = Eigen::Matrix<double, kTerms, 3>::Zero();
        for (std::size_t i = 0; i < rows.size(); ++i) {
            a += weight[i] * rows[i] * rows[i].transpose();
            b += weight[i] * rows[i] * logs[i].transpose();
        }
        out.share_ = a.ldlt().solve(b);
        for (std::size_t i = 0; i < rows.size(); ++i) {
            const double off = (logs[i] - out.share_.transpose() * rows[i]).norm() / std::sqrt(3.0);
            weight[i] = places[i].area * geman_mcclure(off, kPatch);
        }
    }
    if (!out.share_.allFinite()) return SkinLight{};
    out.known_ = true;
    out.share_.row(0).setZero();  // the tone is the skin's
    std::vector<double> of_channel[3], lum;
    for (const Terms& row : rows) {
        const Vec3 light = out.share_.transpose() * row;
        for (std::size_t k = 0; k < 3; ++k) of_channel[k].push_back(light[static_cast<Eigen::Index>(k)]);
    }
    for (std::size_t k = 0; k < 3; ++k) out.lit_[static_cast<Eigen::Index>(k)] = quantile(of_channel[k], 0.75);
    for (const Terms& row : rows) lum.push_back(luminance(out.share_.transpose() * row - out.lit_));
    out.darkest_ = std::exp(quantile(lum, 0.05)), out.lightest_ = std::exp(quantile(lum, 0.95));
    return out;
}

Vec3 SkinLight::light(const Vec3& normal, double open) const {
    if (!known_) return Vec3::Zero();
    return (share_.transpose() * terms(normal, open) - lit_).cwiseMax(-kMostLight).cwiseMin(kMostLight);
}

}  // namespace veld
