// Motion in BVH files, and on other skeletons than its own.
#include <catch2/catch.hpp>

#include "core/rig/bvh.h"
#include "core/rig/rest_poses.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

const std::string kSmall =
    "HIERARCHY\nROOT Hips\n{\n  OFFSET 0 90 0\n  CHANNELS 6 Xposition Yposition Zposition Zrotation Xrotation "
    "Yrotation\n"
    "  JOINT Spine\n  {\n    OFFSET 0 10 0\n    CHANNELS 3 Zrotation Xrotation Yrotation\n    End Site\n    {\n"
    "      OFFSET 0 20 0\n    }\n  }\n}\nMOTION\nFrames: 2\nFrame Time: 0.04\n"
    "0 90 0 0 0 0 90 0 0\n0 90 5 0 0 90 0 45 0\n";

Vec3 direction(const std::vector<Joint>& joints, const Pose& pose, const std::string& from, const std::string& to) {
    const PosedJoints posed = pose_joints(joints, pose);
    Vec3 out = Vec3::Zero();
    for (std::size_t j = 0; j < joints.size(); ++j) {
        if (joints[j].name == from) out -= posed.place[j];
        if (joints[j].name == to) out += posed.place[j];
    }
    return out.normalized();
}

}  // namespace

TEST_CASE("BVH: joints, turns and time are read; what is damaged is told with its line") {
    const auto motion = bvh_from(kSmall, "'small'");
    REQUIRE(motion);
    REQUIRE(motion->joints.size() == 2);
    CHECK(motion->joints[1].name == "Spine");
    CHECK(motion->joints[1].position == Vec3(0, 100, 0));
    REQUIRE(motion->turns.size() == 2);
    CHECK(motion->frame_seconds == 0.04);
    CHECK((motion->turns[0][1] * Vec3::UnitX() - Vec3::UnitY()).norm() < 1e-9);  // 90 about Z
    CHECK((motion->turns[1][0] * Vec3::UnitZ() - Vec3::UnitX()).norm() < 1e-9);  // 90 about Y
    for (std::size_t cut = 0; cut + 8 < kSmall.size(); cut += 7) {
        const auto none = bvh_from(kSmall.substr(0, cut), "'small'");
        REQUIRE_FALSE(none);
        CHECK(none.error().message.find("line ") != std::string::npos);
    }
    for (const auto& [from, to] :
         std::vector<std::pair<std::string, std::string>>{{"Frames: 2", "Frames: 99999999999"},
                                                          {"Frames: 2", "Frames: -1"},
                                                          {"0.04", "0"},
                                                          {"Xrotation", "Wrotation"},
                                                          {"90 5 0", "90 nan 0"},
                                                          {"CHANNELS 6", "CHANNELS 60"}}) {
        std::string broken = kSmall;
        broken.replace(broken.find(from), from.size(), to);
        CHECK_FALSE(bvh_from(broken, "'small'"));
    }
    const auto few = motion_on(*motion, demo_kit()->joints);
    REQUIRE_FALSE(few);
    CHECK(few.error().message.find("left arm") != std::string::npos);
}

TEST_CASE("BVH: written and read again it is the same motion, and the same poses on its own skeleton") {
    const auto kit = demo_kit();
    const Pose t = arm_poses(kit->joints).at("T");
    const Motion motion{kit->joints, {rest_pose(kit->joints).turns, t.turns}, 1.0 / 30};
    const auto again = bvh_from(bvh_text(motion), "'it'");
    REQUIRE(again);
    REQUIRE(again->joints.size() == kit->joints.size());
    const auto poses = motion_on(*again, kit->joints);
    REQUIRE(poses);
    REQUIRE(poses->size() == 2);
    for (std::size_t j = 0; j < kit->joints.size(); ++j) {
        CHECK((*poses)[0].turns[j].isIdentity(1e-5));
        CHECK((*poses)[1].turns[j].isApprox(t.turns[j], 1e-5));
    }
}

TEST_CASE("BVH: a skeleton of other names, another rest pose, size and facing moves this one's bones the same way") {
    const auto kit = demo_kit();
    // the kit's own skeleton at T as its rest, in centimetres, facing +X, with the usual names
    const Pose t = arm_poses(kit->joints).at("T");
    const PosedJoints level = pose_joints(kit->joints, t);
    const Mat3 turned = Eigen::AngleAxisd(M_PI / 2, Vec3::UnitY()).toRotationMatrix();
    const std::map<std::string, std::string> names = {{"pelvis", "Hips"},
                                                      {"spine_1", "Spine"},
                                                      {"spine_2", "Spine2"},
                                                      {"neck", "Neck"},
                                                      {"head", "Head"},
                                                      {"upper_arm_l", "LeftArm"},
                                                      {"forearm_l", "LeftForeArm"},
                                                      {"hand_l", "LeftHand"},
                                                      {"upper_arm_r", "RightArm"},
                                                      {"forearm_r", "RightForeArm"},
                                                      {"hand_r", "RightHand"},
                                                      {"thigh_l", "LeftUpLeg"},
                                                      {"shin_l", "LeftLeg"},
                                                      {"foot_l", "LeftFoot"},
                                                      {"thigh_r", "RightUpLeg"},
                                                      {"shin_r", "RightLeg"},
                                                      {"foot_r", "RightFoot"}};
    Motion motion;
    std::vector<int> number(kit->joints.size(), -1);
    for (std::size_t j = 0; j < kit->joints.size(); ++j) {
        int up = kit->joints[j].parent;
        while (up >= 0 && number[static_cast<std::size_t>(up)] < 0)
            up = kit->joints[static_cast<std::size_t>(up)].parent;
        const auto name = names.find(kit->joints[j].name);
        if (name == names.end()) continue;
        number[j] = static_cast<int>(motion.joints.size());
        motion.joints.push_back(
            {name->second, up < 0 ? -1 : number[static_cast<std::size_t>(up)], turned * (0.1 * level.place[j])});
    }
    motion.turns.assign(2, std::vector<Mat3>(motion.joints.size(), Mat3::Identity()));
    for (std::size_t j = 0; j < motion.joints.size(); ++j)  // the left forearm forwards, which is +X there
        if (motion.joints[j].name == "LeftForeArm")
            motion.turns[1][j] =
                Eigen::Quaterniond::FromTwoVectors(turned * Vec3::UnitX(), turned * Vec3::UnitZ()).toRotationMatrix();
    const auto poses = motion_on(motion, kit->joints);
    REQUIRE(poses);
    const auto& joints = kit->joints;
    CHECK(direction(joints, (*poses)[0], "upper_arm_l", "forearm_l")
              .dot(direction(joints, t, "upper_arm_l", "forearm_l")) > 0.9999);
    CHECK(direction(joints, (*poses)[0], "thigh_r", "shin_r")
              .dot(direction(joints, rest_pose(joints), "thigh_r", "shin_r")) > 0.999);
    CHECK(direction(joints, (*poses)[1], "forearm_l", "hand_l").z() > 0.98);
    CHECK(direction(joints, (*poses)[1], "forearm_r", "hand_r").x() < -0.98);
}
