#include "core/detect/ear_model.h"

#include <Eigen/Cholesky>
#include <Eigen/Eigenvalues>
#include <cmath>

#include "core/kit/known_heads.h"

namespace veld {
namespace {

constexpr double kStep = 1e-4;  // of a spread, for derivatives

}  // namespace

EarNumbers ear_spread() {
    EarNumbers out = EarNumbers::Ones();
    out.head<kFirstForm>() << 0.25, 0.22, 0.2, 9, 10, 9, 0.16, 0.13, 0.3, 0.3, 0.16;
    return out;
}

std::optional<EarAxes> ear_axes(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                                const std::string& side) {
    const auto at = [&](const std::string& name) -> std::optional<Vec3> {
        const auto found = base_points.find(name + "_" + side);
        if (found == base_points.end()) return {};
        return found->second.at(kit.mesh.positions);
    };
    const auto tragion = at("tragion"), top = at("superaurale"), low = at("subaurale"), rear = at("postaurale");
    if (!tragion || !top || !low || !rear) return {};
    EarAxes out;
    out.root = *tragion;
    out.length = (*top - *low).norm();
    out.up = (*top - *low).normalized();
    Vec3 back = *rear - *tragion;
    back -= back.dot(out.up) * out.up;
    if (back.norm() < 1e-6 || out.length < 1e-6) return {};
    out.back = back.normalized();
    out.out = out.back.cross(out.up);
    if (out.out.x() * (side == "l" ? 1 : -1) < 0) out.out = -out.out;
    return out;
}

EarPlace between(const EarPlace& a, const EarPlace& b, double share) {
    return {(1 - share) * a.local + share * b.local, (1 - share) * a.form + share * b.form};
}

EarModel::EarModel(const BaseKit& kit, const EarAxes& axes, const VertexIndices& ear) : kit_(kit), axes_(axes) {
    if (!kit.known_heads || kit.known_heads->empty()) return;
    row_.assign(kit.mesh.positions.size(), kNone);
    for (std::size_t i = 0; i < kit.known_heads->vertex.size(); ++i)
        row_[kit.known_heads->vertex[i]] = static_cast<Index>(i);
    make_forms(ear);
}

EarModel::Ear::Ear(const EarAxes& axes, const EarNumbers& x)
    : form_(x.tail<kEarForms>()),
      low_(-0.2 * axes.length),
      high_(0.25 * axes.length),
      folds_over_(0.12 * axes.length),
      lobe_(std::exp(x[kLobe]) - 1),
      top_(std::exp(x[kTop]) - 1),
      wide_(std::exp(x[kWide])),
      off_(x[kOff]) {
    Mat3 to_kit;
    to_kit << axes.back, axes.up, axes.out;
    const Mat3 turn = (Eigen::AngleAxisd(x[kTurnX], Vec3::UnitX()) * Eigen::AngleAxisd(x[kTurnY], Vec3::UnitY()) *
                       Eigen::AngleAxisd(x[kTurnZ], Vec3::UnitZ()))
                          .toRotationMatrix();
    turn_ = std::exp(x[kSize]) * to_kit * turn;
    move_ = axes.root + to_kit * x.segment<3>(kMoveX);
}

Vec3 EarModel::Ear::operator()(const EarPlace& at) const {
    Vec3 q = at.local + at.form * form_;
    const double below = std::max(0.0, low_ - q.y()), above = std::max(0.0, q.y() - high_);
    q.y() += -below * lobe_ + above * top_;
    q.x() *= wide_;
    // about the front edge; what lies before it stays on the head
    const double a = off_ * std::clamp(q.x() / folds_over_, 0.0, 1.0), u = q.x(), w = q.z(), c = std::cos(a),
                 s = std::sin(a);
    q.x() = c * u - s * w, q.z() = s * u + c * w;
    return move_ + turn_ * q;
}

// How the numbers move a place, per unit each, in the axes.
EarModel::NumberRows EarModel::number_rows(const Vec3& local) const {
    NumberRows out;
    const EarNumbers spread = ear_spread();
    EarPlace at;
    at.local = local;
    for (int k = 0; k < kFirstForm; ++k) {
        EarNumbers x = EarNumbers::Zero();
        x[k] = kStep * spread[k];
        const Vec3 there = placed(x, at);
        x[k] = -x[k];
        out.col(k) = axes_.turned(there - placed(x, at)) / (2 * kStep * spread[k]);
    }
    return out;
}

Eigen::Matrix<double, 3, Eigen::Dynamic> EarModel::known(Index vertex) const {
    const KnownHeads& heads = *kit_.known_heads;
    const auto row = static_cast<Eigen::Index>(row_[vertex]);
    Eigen::Matrix<double, 3, Eigen::Dynamic> out(3, heads.count() + 1);
    out.col(0) = heads.mean.col(row).cast<double>();
    out.rightCols(heads.count()) = heads.mode.middleRows(3 * row, 3).cast<double>();
    Mat3 turn;
    turn << axes_.back.transpose(), axes_.up.transpose(), axes_.out.transpose();
    return turn * out;
}

// Principal components of what is left when the numbers have said what they can (least squares over the ear).
void EarModel::make_forms(const VertexIndices& ear) {
    VertexIndices on;
    for (const Index v : ear) {
        if (row_[v] != kNone) on.push_back(v);
    }
    if (on.size() < 30) return;
    const auto rows = static_cast<Eigen::Index>(3 * on.size());
    Eigen::MatrixXd numbers(rows, kFirstForm), heads(rows, kit_.known_heads->count() + 1);
    for (std::size_t i = 0; i < on.size(); ++i) {
        const auto at = static_cast<Eigen::Index>(3 * i);
        numbers.middleRows(at, 3) = number_rows(axes_.local(kit_.mesh.positions[on[i]]));
        heads.middleRows(at, 3) = known(on[i]);
    }
    const Eigen::MatrixXd normal = numbers.transpose() * numbers,
                          said = normal.ldlt().solve(numbers.transpose() * heads);
    const Eigen::MatrixXd left = heads - numbers * said;
    const Eigen::SelfAdjointEigenSolver<Eigen::MatrixXd> eigen(left.transpose() * left);
    if (eigen.eigenvectors().cols() < kEarForms) return;
    // a column of `heads` is one deviation: the components are left * vector, each as long as its own deviation
    weight_ = eigen.eigenvectors().rightCols(kEarForms);
    taken_ = said * weight_;
}

EarPlace EarModel::place(Index vertex) const {
    EarPlace out;
    out.local = axes_.local(kit_.mesh.positions[vertex]);
    if (weight_.rows() > 0 && row_[vertex] != kNone)
        out.form = known(vertex) * weight_ - number_rows(out.local) * taken_;
    return out;
}

EarPlace EarModel::place(const SurfacePoint& at) const {
    EarPlace out;
    for (std::size_t k = 0; k < 3; ++k) {
        const EarPlace corner = place(at.vertices[k]);
        out.local += at.weights[k] * corner.local, out.form += at.weights[k] * corner.form;
    }
    return out;
}

}  // namespace veld
