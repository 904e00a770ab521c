#include "core/skin/light.h"

#include <Eigen/Dense>
#include <cmath>

#include "core/linalg/statistics.h"
#include "core/skin/log_colour.h"

namespace veld {
namespace {

constexpr double kClosed = 0.05;    // added to how open a place is before its logarithm
constexpr double kCalm = 2e-3;      // of every term but the tone, against all places together
constexpr double kMostLight = 1.8;  // of a logarithm: beyond, nothing is left to bring back
constexpr int kRounds = 12;

double luminance(const Vec3& v) { return 0.2126 * v[0] + 0.7152 * v[1] + 0.0722 * v[2]; }

}  // namespace

SkinLight::Terms SkinLight::terms(const Vec3& n, double open, const Lamp* lamp, double lit) {
    const double x = n.x(), y = n.y(), z = n.z(), hollow = std::log((open + kClosed) / (1 + kClosed));
    Terms out;
    out << 1, x, y, z, x * y, y * z, x * z, x * x - y * y, 3 * z * z - 1, x * x * x, y * y * y, z * z * z, x * x * y,
        x * x * z, y * y * x, y * y * z, z * z * x, z * z * y, x * y * z, hollow, x * hollow, y * hollow, z * hollow,
        lamp ? lamp->adds(n, lit) : 0;
    return out;
}

SkinLight SkinLight::of(const std::vector<LitPlace>& places, const std::optional<Lamp>& lamp, double patch) {
    SkinLight out;
    if (places.size() < kLeastPlaces) return out;
    out.lamp_ = lamp;
    std::vector<Terms> rows;
    std::vector<Vec3> logs;
    std::vector<double> weight;
    double all = 0;
    for (const LitPlace& p : places) {
        rows.push_back(terms(p.normal, p.open, lamp ? &*lamp : nullptr, p.lit));
        logs.push_back(log_colour(p.colour));
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
            weight[i] = places[i].area * geman_mcclure(off, patch);
        }
    }
    if (!out.share_.allFinite()) return SkinLight{};
    out.known_ = true;
    out.skin_ = out.share_.row(0).transpose();
    out.share_.row(0).setZero();  // the tone is the skin's
    std::vector<double> of_channel[3], lum;
    for (const Terms& row : rows) {
        const Vec3 light = out.share_.transpose() * row;
        for (std::size_t k = 0; k < 3; ++k) of_channel[k].push_back(light[static_cast<Eigen::Index>(k)]);
    }
    for (std::size_t k = 0; k < 3; ++k) out.lit_[static_cast<Eigen::Index>(k)] = quantile(of_channel[k], 0.75);
    out.skin_ += out.lit_;
    for (const Terms& row : rows) lum.push_back(luminance(out.share_.transpose() * row - out.lit_));
    out.darkest_ = std::exp(quantile(lum, 0.05)), out.lightest_ = std::exp(quantile(lum, 0.95));
    return out;
}

Vec3 SkinLight::light(const Vec3& normal, double open, double lit) const {
    if (!known_) return Vec3::Zero();
    return (share_.transpose() * terms(normal, open, lamp_ ? &*lamp_ : nullptr, lit) - lit_)
        .cwiseMax(-kMostLight)
        .cwiseMin(kMostLight);
}

double SkinLight::unexplained(const std::vector<LitPlace>& places) const {
    double sum = 0, all = 0;
    for (const LitPlace& p : places) {
        const double off2 = (log_colour(p.colour) - skin_ - light(p.normal, p.open, p.lit)).squaredNorm() / 3;
        sum += p.area * off2 / (off2 + kPatch * kPatch), all += p.area;
    }
    return all > 0 ? sum / all : 0;
}

}  // namespace veld
