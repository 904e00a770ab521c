#include "core/proof/nearest_mix.h"

#include <algorithm>
#include <cmath>

#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr int kLandmarkRounds = 3, kMixRounds = 15, kSweeps = 60;
constexpr double kReachMm = 10, kFacing = 0.4;       // of matches; cosine
constexpr double kMostOfOne = 1.3, kSettled = 2e-3;  // amounts
constexpr double kMarkWeight = 8;                    // of a landmark's coordinate, against a distance along a normal
constexpr double kDoubtfulMm = 1.5;                  // a distance that counts a quarter
constexpr double kHeldBack = 2e-3;                   // of the largest expression's own weight

class Mixing {
 public:
    explicit Mixing(const MixTold& told) : told_(told), triangles_(skin_triangles(told.person)) {
        const Mat3 turn = told.held.scale * told.held.rotation;
        for (const auto& [name, shape] : told.person.expressions) {
            ways_.push_back(shape);
            for (std::size_t v = 0; v < shape.size(); ++v)
                ways_.back()[v] = turn * (shape[v] - told.person.mesh.positions[v]);
        }
        for (const Vec3& p : told.person.mesh.positions) x_.push_back(told.held(p));
        amounts_.assign(ways_.size(), 0);
    }
    std::vector<double> solve() {
        for (int round = 0; round < kMixRounds; ++round) {
            begin();
            add_landmarks();
            if (round >= kLandmarkRounds) add_surface();
            const double most = step();
            if (round > kLandmarkRounds && most < kSettled) break;
        }
        return amounts_;
    }

 private:
    void begin() {
        const auto many = static_cast<Eigen::Index>(ways_.size());
        normal_ = Eigen::MatrixXd::Zero(many, many), right_ = Eigen::VectorXd::Zero(many);
    }
    // at: how a place follows from the skin's vertices
    void add(const SurfacePoint& at, const Vec3& along, double missing, double weight) {
        Eigen::VectorXd row(right_.size());
        for (Eigen::Index i = 0; i < row.size(); ++i) row[i] = along.dot(at.at(ways_[static_cast<std::size_t>(i)]));
        normal_.selfadjointView<Eigen::Lower>().rankUpdate(row, weight);
        right_ += weight * missing * row;
    }
    void add_landmarks() {
        for (const auto& [name, place] : told_.landmarks) {
            const auto at = told_.person.landmarks.find(name);
            if (at == told_.person.landmarks.end()) continue;
            const Vec3 missing = place - at->second.at(x_);
            const double weight = kMarkWeight / (1 + missing.squaredNorm() / (kReachMm * kReachMm));
            for (int k = 0; k < 3; ++k) add(at->second, Vec3::Unit(k), missing[k], weight);
        }
    }
    void add_surface() {
        const Points normals = vertex_normals(x_, triangles_);
        for (const Index v : told_.skin) {
            const FacingFilter facing{normals[v], kFacing};
            const SurfaceHit hit = told_.surface.closest(x_[v], kReachMm, &facing);
            if (!hit || told_.surface.on_border(hit)) continue;
            const Vec3& along = told_.surface.query->triangle_normals()[hit.triangle];
            const double missing = along.dot(hit.position - x_[v]), share = missing / kDoubtfulMm;
            add({kNone, {v, v, v}, {1, 0, 0}}, along, missing, 1 / std::pow(1 + share * share, 2));
        }
    }
    // Coordinate descent within bounds; returns the largest change.
    double step() {
        normal_.triangularView<Eigen::StrictlyUpper>() = normal_.transpose();
        const double held = kHeldBack * normal_.diagonal().maxCoeff();
        Eigen::VectorXd change = Eigen::VectorXd::Zero(right_.size());
        for (int sweep = 0; sweep < kSweeps; ++sweep)
            for (Eigen::Index i = 0; i < change.size(); ++i) {
                const double was = amounts_[static_cast<std::size_t>(i)], now = was + change[i],
                             slope = right_[i] - normal_.row(i).dot(change) - held * now;
                if (normal_(i, i) + held > 0)
                    change[i] = std::clamp(now + slope / (normal_(i, i) + held), 0.0, kMostOfOne) - was;
            }
        for (std::size_t i = 0; i < ways_.size(); ++i) {
            const double more = change[static_cast<Eigen::Index>(i)];
            amounts_[i] += more;
            for (std::size_t v = 0; more != 0 && v < x_.size(); ++v) x_[v] += more * ways_[i][v];
        }
        return change.cwiseAbs().maxCoeff();
    }

    const MixTold& told_;
    const std::vector<Triangle>& triangles_;
    std::vector<Points> ways_;  // in the placed scan's frame
    Points x_;
    std::vector<double> amounts_;
    Eigen::MatrixXd normal_;
    Eigen::VectorXd right_;
};

}  // namespace

std::vector<double> nearest_amounts(const MixTold& told) { return Mixing(told).solve(); }

BaseKit person_with(const BaseKit& person, const std::vector<double>& amounts) {
    BaseKit out = person;
    std::vector<const Points*> shapes;
    for (const auto& [name, shape] : person.expressions) shapes.push_back(&shape);
    for (std::size_t v = 0; v < out.mesh.positions.size(); ++v) {
        Vec3 by = Vec3::Zero();
        for (std::size_t i = 0; i < shapes.size(); ++i)
            by += amounts[i] * ((*shapes[i])[v] - person.mesh.positions[v]);
        out.mesh.positions[v] += by;
        for (auto& [name, shape] : out.expressions) shape[v] += by;
    }
    return out;
}

}  // namespace veld
