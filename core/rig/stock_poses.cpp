#include "core/rig/stock_poses.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

#include "core/rig/joint_range.h"
#include "core/rig/rest_poses.h"

namespace veld {
namespace {

Mat3 about(const Vec3& axis, double degrees) {
    return Eigen::AngleAxisd(degrees * M_PI / 180, axis).toRotationMatrix();
}

// Turns by joint name; "_l" and "_r" get the same about X and the mirrored one about Y and Z.
struct Turn {
    const char* joint;
    Vec3 degrees;  // about X, Y, Z
    bool left = true, right = true;
};

bool turn(const std::vector<Joint>& joints, const Turn& by, Pose& pose) {
    bool any = false;
    for (const char* side : {"", "_l", "_r"}) {
        const bool right = std::string(side) == "_r";
        if ((right && !by.right) || (std::string(side) == "_l" && !by.left)) continue;
        const auto at = std::find_if(joints.begin(), joints.end(),
                                     [&](const Joint& j) { return j.name == std::string(by.joint) + side; });
        if (at == joints.end()) continue;
        const double mirror = right ? -1 : 1;
        Mat3& turn = pose.turns[static_cast<std::size_t>(at - joints.begin())];
        turn = about(Vec3::UnitZ(), mirror * by.degrees.z()) * about(Vec3::UnitY(), mirror * by.degrees.y()) *
               about(Vec3::UnitX(), by.degrees.x()) * turn;
        any = true;
    }
    return any;
}

void add(const std::vector<Joint>& joints, const char* name, Pose pose, const std::vector<Turn>& turns,
         std::vector<StockPose>& out) {
    bool any = false;
    for (const Turn& by : turns) any = turn(joints, by, pose) || any;
    if (any) out.push_back({name, std::move(pose)});
}

// Bone and hand of a finger's joint: from it to its child.
Vec3 bone_of(const std::vector<Joint>& joints, std::size_t j) {
    for (const Joint& child : joints)
        if (child.parent == static_cast<int>(j)) return (child.position - joints[j].position).normalized();
    return Vec3::Zero();
}

// Shut: all joints of the fingers about their hinges. Else the first ones apart in the plane of the hand.
bool bend_fingers(const std::vector<Joint>& joints, bool shut, Pose& pose) {
    const std::vector<JointRange> ranges = joint_ranges(joints);
    bool any = false;
    for (std::size_t j = 0; j < joints.size(); ++j) {
        const std::string& name = joints[j].name;
        if (!of_finger(name) || ranges[j].hinge.isZero()) continue;
        if (shut) {
            pose.turns[j] = about(ranges[j].hinge, 70), any = true;
            continue;
        }
        const std::size_t number = name.find("_1_");
        const auto middle = std::find_if(joints.begin(), joints.end(), [&](const Joint& other) {
            return number != std::string::npos && other.name == "middle" + name.substr(number);
        });
        if (middle == joints.end() || middle->name == name) continue;
        const Vec3 bone = bone_of(joints, j), axis = ranges[j].hinge.cross(bone).normalized();
        const double turn = axis.cross(bone).dot(joints[j].position - middle->position) >= 0 ? 1 : -1;
        pose.turns[j] = about(axis, turn * 16), any = true;
    }
    return any;
}

}  // namespace

std::vector<StockPose> stock_poses(const std::vector<Joint>& joints) {
    std::vector<StockPose> out;
    const auto arms = arm_poses(joints);
    for (const char* name : {"T", "A"})
        if (const auto found = arms.find(name); found != arms.end()) out.push_back({name, found->second});
    const Pose rest = rest_pose(joints), level = arms.contains("T") ? arms.at("T") : rest;
    const Pose low = arms.contains("A") ? arms.at("A") : rest;
    if (arms.contains("T")) add(joints, "arms up", level, {{"clavicle", {0, 0, 15}}, {"upper_arm", {0, 0, 50}}}, out);
    add(joints, "sit", low, {{"thigh", {-85, 0, 3}}, {"shin", {88, 0, 0}}}, out);
    add(joints, "stride", low,
        {{"thigh", {-30, 0, 0}, true, false},
         {"thigh", {18, 0, 0}, false, true},
         {"shin", {12, 0, 0}, true, false},
         {"shin", {22, 0, 0}, false, true},
         {"upper_arm", {22, 0, 0}, true, false},
         {"upper_arm", {-22, 0, 0}, false, true}},
        out);
    add(joints, "squat", low,
        {{"thigh", {-110, 0, 12}}, {"shin", {120, 0, 0}}, {"foot", {-22, 0, 0}}, {"spine_1", {14, 0, 0}}}, out);
    if (arms.contains("T")) add(joints, "reach", level, {{"clavicle", {0, -14, 4}}, {"upper_arm", {0, -70, 0}}}, out);
    add(joints, "twist", low,
        {{"spine_1", {0, 16, 0}}, {"spine_2", {0, 16, 0}}, {"spine_3", {0, 16, 0}}, {"neck", {0, 12, 0}}}, out);
    add(joints, "head turned", rest, {{"neck", {0, 24, 0}}, {"head", {0, 36, 0}}}, out);
    add(joints, "head nodded", rest, {{"neck", {18, 0, 0}}, {"head", {20, 0, 0}}}, out);
    add(joints, "head tilted", rest, {{"neck", {0, 0, 14}}, {"head", {0, 0, 18}}}, out);
    for (const bool shut : {true, false}) {
        Pose hands = rest;
        if (bend_fingers(joints, shut, hands)) out.push_back({shut ? "fists" : "spread", std::move(hands)});
    }
    return out;
}

}  // namespace veld
