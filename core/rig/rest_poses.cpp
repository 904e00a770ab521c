#include "core/rig/rest_poses.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace veld {
namespace {

constexpr double kDegreesOfA = 45;

struct Arm {
    std::size_t upper = 0, fore = 0;
    Vec3 upper_way, fore_way;  // unit, at rest: shoulder to elbow, elbow to wrist
};

std::optional<std::size_t> find(const std::vector<Joint>& joints, const std::string& name) {
    const auto at = std::find_if(joints.begin(), joints.end(), [&](const Joint& j) { return j.name == name; });
    if (at == joints.end()) return {};
    return static_cast<std::size_t>(at - joints.begin());
}

std::vector<Arm> arms(const std::vector<Joint>& joints) {
    std::vector<Arm> out;
    for (const char* side : {"_l", "_r"}) {
        const auto upper = find(joints, std::string("upper_arm") + side),
                   fore = find(joints, std::string("forearm") + side), hand = find(joints, std::string("hand") + side);
        if (!upper || !fore || !hand) continue;
        const Vec3 a = joints[*fore].position - joints[*upper].position,
                   b = joints[*hand].position - joints[*fore].position;
        if (a.norm() > 0 && b.norm() > 0) out.push_back({*upper, *fore, a.normalized(), b.normalized()});
    }
    return out;
}

Mat3 between(const Vec3& from, const Vec3& to) {
    return Eigen::Quaterniond::FromTwoVectors(from, to).toRotationMatrix();
}

}  // namespace

std::map<std::string, Pose> arm_poses(const std::vector<Joint>& joints) {
    std::map<std::string, Pose> out;
    const std::vector<Arm> both = arms(joints);
    if (both.empty()) return out;
    for (const auto& [name, degrees] : {std::pair{"A", kDegreesOfA}, {"T", 0.0}}) {
        Pose pose = rest_pose(joints);
        for (const Arm& arm : both) {
            const double side = arm.upper_way.x() < 0 ? -1 : 1, down = degrees * M_PI / 180;
            const Vec3 wanted(side * std::cos(down), -std::sin(down), 0);
            pose.turns[arm.upper] = between(arm.upper_way, wanted);
            // the forearm is turned with the upper arm first
            pose.turns[arm.fore] = between(arm.fore_way, pose.turns[arm.upper].transpose() * wanted);
        }
        out[name] = std::move(pose);
    }
    return out;
}

std::optional<double> arms_below_level(const std::vector<Joint>& joints) {
    const std::vector<Arm> both = arms(joints);
    if (both.empty()) return {};
    double sum = 0;
    for (const Arm& arm : both) sum += std::asin(std::clamp(-arm.upper_way.y(), -1.0, 1.0)) * 180 / M_PI;
    return sum / static_cast<double>(both.size());
}

}  // namespace veld
