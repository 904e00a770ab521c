#include "core/fit/likely_head.h"

#include <tbb/parallel_for.h>

#include <Eigen/Cholesky>
#include <cmath>

#include "core/base/smoothstep.h"
#include "core/fit/follow.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/shape/head_model.h"

namespace veld {
namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

constexpr int kRounds = 24, kFaceRounds = 10;
constexpr double kStartMm = 18, kEndMm = 4;  // scale of the robust weights
constexpr double kOutside = 0.5;             // of that scale, where the source lies outside
constexpr double kMostAngle = 60;            // degrees between the normals
constexpr double kMostZ = 3;                 // no component goes farther than this
constexpr double kRestMm = 0.8;              // what a match says at best
constexpr double kWayMm = 0.3;

// The normal of the surface where it was found. On an edge two triangles have one each, and which is found is chance:
// there the way to it is meant, which changes smoothly. Nearer than kWayMm no way is sure.
Vec3 way_to(const Vec3& to, const Vec3& normal) {
    const double far = to.norm();
    if (far < 1e-9) return normal;
    const Vec3 way = (to.dot(normal) < 0 ? -1 : 1) / far * to;
    const double share = smoothstep(far / kWayMm);
    const Vec3 both = share * way + (1 - share) * normal;
    return both.norm() > 1e-9 ? both.normalized() : normal;
}

class Likely {
 public:
    explicit Likely(const LikelyInput& input) : in_(input), known_(*input.kit->known_heads), model_(*input.kit) {
        const BaseKit& kit = *in_.kit;
        base_ = kit.mesh.positions;
        if (in_.pose) turn_columns();
        slot_.assign(base_.size(), kNone);
        for (std::size_t i = 0; i < known_.vertex.size(); ++i) slot_[known_.vertex[i]] = static_cast<Index>(i);
        patch_ = model_.patches(kit, std::vector<double>(base_.size(), 1));
        face_.assign(base_.size(), 0);
        for (const Index v : kit.region("face")) face_[v] = 1;
        z_ = VectorXd::Zero(model_.columns.cols());
        shape();
    }

    LikelyHead run() {
        for (int round = 0; round < kRounds; ++round) step(round);
        LikelyHead out;
        out.sure = model_.deviations(*in_.kit, a_);
        out.positions = x_;
        follow_parts(*in_.kit, nullptr, out.positions);
        return out;
    }

 private:
    // Under a pose each vertex's difference turns with it.
    void turn_columns() {
        const BaseKit& kit = *in_.kit;
        const PosedJoints joints = pose_joints(kit.joints, *in_.pose);
        for (std::size_t i = 0; i < known_.vertex.size(); ++i) {
            const Index v = known_.vertex[i];
            Mat3 turn = Mat3::Zero();
            for (std::size_t k = 0; k < 4; ++k) {
                if (kit.weights.weight[v][k] > 0)
                    turn +=
                        kit.weights.weight[v][k] * joints.linear[static_cast<std::size_t>(kit.weights.joint[v][k])];
            }
            const auto row = static_cast<Eigen::Index>(3 * i);
            model_.mean.segment<3>(row) = turn * Vec3(model_.mean.segment<3>(row));
            const Eigen::Index n = known_.mode.cols();
            model_.columns.block(row, 0, 3, n) = (turn * model_.columns.block(row, 0, 3, n)).eval();
        }
    }

    void shape() {
        const VectorXd moved = model_.mean + model_.columns * z_;
        x_ = base_;
        for (std::size_t i = 0; i < known_.vertex.size(); ++i)
            x_[known_.vertex[i]] += moved.segment<3>(static_cast<Eigen::Index>(3 * i));
    }

    void add_points() {
        const double sure = 1 / (in_.point_mm * in_.point_mm);
        for (const PointPull& p : in_.points) {
            MatrixXd j = MatrixXd::Zero(3, model_.columns.cols());
            Vec3 now = Vec3::Zero();
            for (std::size_t k = 0; k < 3; ++k) {
                now += p.place.weights[k] * x_[p.place.vertices[k]];
                if (slot_[p.place.vertices[k]] != kNone)
                    j += p.place.weights[k] * model_.columns.middleRows<3>(3 * slot_[p.place.vertices[k]]);
            }
            const Vec3 left = p.target - now;
            const double w = sure * p.weight * geman_mcclure(left.norm(), 4 * in_.point_mm / std::sqrt(p.weight));
            a_ += w * j.transpose() * j;
            b_ += w * j.transpose() * left;
        }
    }

    void add_surface(double scale, bool face_only) {
        const Points normals = vertex_normals(x_, skin_triangles(*in_.kit));
        const double least = std::cos(kMostAngle * M_PI / 180);
        struct Found {
            Vec3 normal = Vec3::Zero();
            double distance = 0, weight = 0;
        };
        std::vector<Found> found(known_.vertex.size());
        tbb::parallel_for(std::size_t{0}, known_.vertex.size(), [&](std::size_t i) {
            const Index v = known_.vertex[i];
            if ((*in_.match)[v] <= 0 || (face_only && !face_[v])) return;
            const FacingFilter facing{normals[v], least};
            const SurfaceHit hit = in_.source->closest(x_[v], 3 * scale, &facing);
            if (!hit || in_.source->on_border(hit)) return;
            const double under = SourceSurface::lies_under(hit, x_[v], normals[v]);
            if (under <= 0) return;
            const Vec3 to = hit.position - x_[v];
            const Vec3 n = way_to(to, in_.source->query->triangle_normals()[hit.triangle]);
            const double d = to.dot(n), out = to.dot(normals[v]);
            const double sd = std::hypot(kRestMm, static_cast<double>(known_.beyond[i]));
            const double robust = geman_mcclure(hit.distance, out > 0 ? kOutside * scale : scale);
            found[i] = {n, d, under * (*in_.match)[v] * patch_[i] * robust / (sd * sd)};
        });
        MatrixXd rows(static_cast<Eigen::Index>(found.size()), model_.columns.cols());
        VectorXd left(rows.rows());
        Eigen::Index count = 0;
        for (std::size_t i = 0; i < found.size(); ++i) {
            if (found[i].weight <= 0) continue;
            const double root = std::sqrt(found[i].weight);
            rows.row(count) =
                root * found[i].normal.transpose() * model_.columns.middleRows<3>(static_cast<Eigen::Index>(3 * i));
            left[count++] = root * found[i].distance;
        }
        a_ += rows.topRows(count).transpose() * rows.topRows(count);
        b_ += rows.topRows(count).transpose() * left.head(count);
    }

    void step(int round) {
        const Eigen::Index n = model_.columns.cols();
        a_ = MatrixXd::Identity(n, n);
        b_ = -z_;
        add_points();
        const double way = static_cast<double>(round) / (kRounds - 1);
        if (in_.source) add_surface(kStartMm * std::pow(kEndMm / kStartMm, way), in_.face_only || round < kFaceRounds);
        z_ += a_.llt().solve(b_);
        for (Eigen::Index k = 0; k < known_.mode.cols(); ++k) z_[k] = std::clamp(z_[k], -kMostZ, kMostZ);
        shape();
    }

    const LikelyInput& in_;
    const KnownHeads& known_;
    HeadModel model_;
    Points base_, x_;
    std::vector<Index> slot_;
    std::vector<double> patch_;
    VertexMask face_;
    MatrixXd a_;
    VectorXd b_, z_;
};

}  // namespace

std::optional<LikelyHead> likely_head(const LikelyInput& input) {
    if (!input.kit->known_heads || input.kit->known_heads->count() == 0) return {};
    return Likely(input).run();
}

}  // namespace veld
