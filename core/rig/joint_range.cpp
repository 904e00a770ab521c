#include "core/rig/joint_range.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/landmark/landmarks.h"

namespace veld {
namespace {

constexpr double kLimb = 1e5, kTrunk = 5e6, kFine = 3e6, kAcross = 5e5;
constexpr double kCurl = 2e3, kSpread = 3e4, kThumb = 3e4, kFingerOff = 3e5;
constexpr double kCurlTie = 8e3, kCollarTie = 1.5e6, kCollarShare = 0.25;
constexpr double kRangeDegree = M_PI / 180;

class Ranges {
 public:
    explicit Ranges(const std::vector<Joint>& joints) : joints_(joints), out_(joints.size()) {}

    std::vector<JointRange> make() {
        for (std::size_t j = 0; j < joints_.size(); ++j) one(j);
        return std::move(out_);
    }

 private:
    int find(const std::string& name) const {
        const auto at =
            std::find_if(joints_.begin(), joints_.end(), [&](const Joint& joint) { return joint.name == name; });
        return at == joints_.end() ? -1 : static_cast<int>(at - joints_.begin());
    }
    const Vec3& at(int joint) const { return joints_[static_cast<std::size_t>(joint)].position; }

    void one(std::size_t j) {
        const std::string& name = joints_[j].name;
        const bool sided = name.ends_with("_l") || name.ends_with("_r");
        const std::string side = sided ? name.substr(name.size() - 2) : "";
        const std::string plain = sided ? name.substr(0, name.size() - 2) : name;
        JointRange& range = out_[j];
        const auto all = [&](double k) { range.stiffness = k * Mat3::Identity(); };
        all(kLimb);
        const double outwards = side == "_l" ? 1 : -1;
        if (plain.starts_with("spine") || plain == "neck") all(kTrunk);
        if (plain.starts_with("toe") || plain == "eye" || plain == "jaw") all(kFine);
        if (plain == "shin") hinged(range, Vec3::UnitX(), kLimb, kAcross), limit(range, -10, 155);
        if (sided && plain == "upper_arm") range.hinge = outwards * Vec3::UnitZ();
        if (sided && plain == "clavicle") {
            all(kTrunk);
            range.hinge = outwards * Vec3::UnitZ();
            range.stiffness -= kTrunk * range.hinge * range.hinge.transpose();
            range.like = find("upper_arm" + side), range.share = kCollarShare, range.tie = kCollarTie;
            range.only_up = true;
        }
        if (plain.starts_with("thumb"))
            all(kThumb);
        else if (of_finger(plain) && sided)
            finger(j, plain, side);
    }

    static void hinged(JointRange& range, const Vec3& axis, double about, double across) {
        range.hinge = axis;
        range.stiffness = across * Mat3::Identity() + (about - across) * axis * axis.transpose();
    }
    static void limit(JointRange& range, double low, double high) {
        range.low = low * kRangeDegree, range.high = high * kRangeDegree;
    }

    // name: as "index_1"
    void finger(std::size_t j, const std::string& name, const std::string& side) {
        JointRange& range = out_[j];
        range.stiffness = kFine * Mat3::Identity();
        const int hand = find("hand" + side), index = find("index_1" + side), little = find("little_1" + side);
        const std::string which = name.substr(0, name.size() - 1);
        const char number = name.back();
        const int root = find(which + "1" + side), next = find(which + "2" + side);
        if (hand < 0 || index < 0 || little < 0 || root < 0 || next < 0) return;
        // out of the palm; which side that is follows from left and right alone
        const Vec3 palm = ((at(index) - at(hand)).cross(at(little) - at(hand)) * (side == "_l" ? -1 : 1)).normalized();
        const Vec3 along = (at(next) - at(root)).normalized();
        const Vec3 axis = along.cross(palm).normalized();
        if (!axis.allFinite()) return;
        hinged(range, axis, kCurl, kFingerOff);
        limit(range, -15, 105);
        if (number == '1') range.stiffness -= (kFingerOff - kSpread) * palm * palm.transpose();
        range.tie = kCurlTie;
        static const char* const before[][2] = {{"middle_", "index_"}, {"ring_", "middle_"}, {"little_", "ring_"}};
        if (number != '1') {
            range.like = find(which + static_cast<char>(number - 1) + side);
            return;
        }
        for (const auto& [one, other] : before)
            if (which == one) range.like = find(other + std::string("1") + side);
    }

    const std::vector<Joint>& joints_;
    std::vector<JointRange> out_;
};

}  // namespace

bool of_finger(const std::string& joint) {
    for (const char* finger : {"thumb", "index", "middle", "ring", "little"})
        if (joint.starts_with(finger)) return true;
    return false;
}

int other_side(const std::vector<Joint>& joints, int joint) {
    const std::string name = other_side(joints[static_cast<std::size_t>(joint)].name);
    const auto at = std::find_if(joints.begin(), joints.end(), [&](const Joint& j) { return j.name == name; });
    return at == joints.end() ? -1 : static_cast<int>(at - joints.begin());
}

Vec3 degrees_of_turn(const Mat3& r) {
    const double y = std::asin(std::clamp(-r(2, 0), -1.0, 1.0));
    const bool level = std::abs(std::cos(y)) > 1e-6;
    const double x = level ? std::atan2(r(2, 1), r(2, 2)) : 0,
                 z = level ? std::atan2(r(1, 0), r(0, 0)) : std::atan2(-r(0, 1), r(1, 1));
    return Vec3(x, y, z) / kRangeDegree;
}

Mat3 turn_by_degrees(const Vec3& degrees) {
    const Vec3 r = degrees * kRangeDegree;
    return (Eigen::AngleAxisd(r.z(), Vec3::UnitZ()) * Eigen::AngleAxisd(r.y(), Vec3::UnitY()) *
            Eigen::AngleAxisd(r.x(), Vec3::UnitX()))
        .toRotationMatrix();
}

std::vector<JointRange> joint_ranges(const std::vector<Joint>& joints) { return Ranges(joints).make(); }

}  // namespace veld
