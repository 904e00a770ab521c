#include "core/shape/head_model.h"

#include <Eigen/Cholesky>
#include <cmath>

#include "core/kit/kit_surface.h"

namespace veld {
namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

constexpr double kAlikeMm = 18;  // what the components do not know is alike over about this much skin
constexpr double kPlaceMm = 12;  // standard deviation of the placement's move; of its turn and size over kArmMm
constexpr double kArmMm = 110;
constexpr int kPlaceColumns = 7;
constexpr double kBandMm = 55;  // the placement moves the head and not the neck's seam

}  // namespace

HeadModel::HeadModel(const BaseKit& kit) {
    const KnownHeads& known = *kit.known_heads;
    mean = known.mean.cast<double>().reshaped();
    const Eigen::Index k = known.mode.cols();
    columns.resize(known.mode.rows(), k + kPlaceColumns);
    columns.leftCols(k) = known.mode.cast<double>();
    const std::vector<double> fade = head_fade(kit, kBandMm);
    Vec3 middle = Vec3::Zero();
    for (const Index v : known.vertex) middle += kit.mesh.positions[v] / static_cast<double>(known.vertex.size());
    for (std::size_t i = 0; i < known.vertex.size(); ++i) {
        const auto row = static_cast<Eigen::Index>(3 * i);
        const Vec3 d = (kit.mesh.positions[known.vertex[i]] - middle) / kArmMm * kPlaceMm;
        columns.block<3, 3>(row, k) = kPlaceMm * Mat3::Identity();
        for (int axis = 0; axis < 3; ++axis) columns.block<3, 1>(row, k + 3 + axis) = Vec3::Unit(axis).cross(d);
        columns.block<3, 1>(row, k + 6) = d;
        columns.block<3, kPlaceColumns>(row, k) *= fade[known.vertex[i]];
    }
}

std::vector<double> HeadModel::patches(const BaseKit& kit, const std::vector<double>& weight) const {
    std::vector<double> area(kit.mesh.positions.size(), 0);
    for (const Triangle& t : skin_triangles(kit)) {
        const Points& x = kit.mesh.positions;
        const double third = (x[t[1]] - x[t[0]]).cross(x[t[2]] - x[t[0]]).norm() / 6;
        for (const Index v : t) area[v] += third;
    }
    std::vector<double> out;
    for (const Index v : kit.known_heads->vertex)
        out.push_back(weight[v] * std::min(1.0, area[v] / (kAlikeMm * kAlikeMm)));
    return out;
}

std::vector<double> HeadModel::deviations(const BaseKit& kit, const MatrixXd& information) const {
    const KnownHeads& known = *kit.known_heads;
    std::vector<double> out(kit.mesh.positions.size(), 0);
    const MatrixXd half = information.llt().matrixL().solve(columns.transpose());
    for (std::size_t i = 0; i < known.vertex.size(); ++i) {
        const double beyond = known.beyond[i];
        const double of_columns = half.middleCols<3>(static_cast<Eigen::Index>(3 * i)).squaredNorm();
        out[known.vertex[i]] = std::sqrt((of_columns + beyond * beyond) / 3);
    }
    return out;
}

}  // namespace veld
