#include "core/rig/dual_quaternion.h"

#include <Eigen/Geometry>

namespace veld {
namespace {

// x -> turn * x + move as a unit dual quaternion, coefficients in Eigen's order (x, y, z, w).
struct DualQuaternion {
    Eigen::Vector4d real = Eigen::Vector4d::Zero(), dual = Eigen::Vector4d::Zero();

    static DualQuaternion of(const Mat3& turn, const Vec3& move) {
        const Eigen::Quaterniond q(turn), t(0, move.x(), move.y(), move.z());
        return {q.coeffs(), 0.5 * (t * q).coeffs()};
    }
    void add(double weight, const DualQuaternion& other) { real += weight * other.real, dual += weight * other.dual; }
    Vec3 operator()(const Vec3& x) const {
        const double length = real.norm();
        if (!(length > 1e-9)) return x;
        const Eigen::Quaterniond q(real / length), d(dual / length);
        return q * x + 2 * (d * q.conjugate()).vec();
    }
};

}  // namespace

Points skin_by_dual_quaternions(const Points& positions, const std::vector<Joint>& joints, const SkinWeights& weights,
                                const Pose& pose) {
    const PosedJoints posed = pose_joints(joints, pose);
    std::vector<DualQuaternion> motion;
    for (std::size_t j = 0; j < joints.size(); ++j)
        motion.push_back(DualQuaternion::of(posed.turn[j], posed.place[j] - posed.turn[j] * joints[j].position));
    Points out = positions;
    for (std::size_t v = 0; v < positions.size(); ++v) {
        Vec3 at = positions[v];
        for (std::size_t k = 0; k < 4 && !pose.stretch.empty(); ++k) {
            const std::size_t j = weights.joint[v][k];
            at += weights.weight[v][k] * ((pose.stretch[j] - Mat3::Identity()) * (positions[v] - joints[j].position));
        }
        DualQuaternion blend;
        std::size_t first = 4;
        for (std::size_t k = 0; k < 4; ++k) {
            const double w = weights.weight[v][k];
            if (!(w > 0)) continue;
            const DualQuaternion& m = motion[weights.joint[v][k]];
            if (first == 4) first = k;
            // the shorter way round
            const bool against = motion[weights.joint[v][first]].real.dot(m.real) < 0;
            blend.add(against ? -w : w, m);
        }
        if (first < 4) out[v] = blend(at);
    }
    return out;
}

}  // namespace veld
