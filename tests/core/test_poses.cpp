// Poses that a fit or a shape is found in, and taken out of it.
#include <catch2/catch.hpp>
#include <cmath>

#include "core/fit/articulate.h"
#include "core/fit/find_pose.h"
#include "core/fit/take_pose.h"
#include "core/io/mesh_file.h"
#include "core/kit/flesh.h"
#include "core/kit/kit_joints.h"
#include "core/landmark/landmarks.h"
#include "core/linalg/statistics.h"
#include "core/rig/joint_range.h"
#include "core/rig/stock_poses.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

std::size_t joint_of(const BaseKit& kit, const std::string& name) {
    for (std::size_t j = 0; j < kit.joints.size(); ++j)
        if (kit.joints[j].name == name) return j;
    throw std::runtime_error("no joint " + name);
}

void turn(const BaseKit& kit, Pose& pose, const std::string& joint, double degrees, const Vec3& axis) {
    Mat3& now = pose.turns[joint_of(kit, joint)];
    now = Eigen::AngleAxisd(degrees * M_PI / 180, axis.normalized()).toRotationMatrix() * now;
}

// Degrees between the two turns of a joint.
double off(const BaseKit& kit, const Pose& a, const Pose& b, const std::string& joint) {
    const std::size_t j = joint_of(kit, joint);
    return Eigen::AngleAxisd(Mat3(a.turns[j].transpose() * b.turns[j])).angle() * 180 / M_PI;
}

Points standing(const BaseKit& kit, const Pose& pose) {
    return skin(kit.mesh.positions, kit.joints, kit.weights, pose);
}

std::vector<PosePull> head_pulls(const BaseKit& kit, const Points& at) {
    std::vector<PosePull> out;
    for (const char* name : {"pronasale", "subnasale", "gnathion", "vertex", "endocanthion_l", "endocanthion_r",
                             "exocanthion_l", "exocanthion_r", "cheilion_l", "cheilion_r"})
        if (const auto found = kit.landmarks.find(name); found != kit.landmarks.end())
            out.push_back({found->second, found->second.at(at)});
    return out;
}

// What a figure that stands so is found to stand in, by its face and its surface.
Pose found_in(const BaseKit& kit, const Pose& pose) {
    Mesh scan = kit.mesh;
    scan.positions = standing(kit, pose);
    const auto pulls = head_pulls(kit, scan.positions);
    REQUIRE(pulls.size() >= 6);
    const auto bent = articulate(kit, prepare_source(scan, {}), pulls, {}, {});
    REQUIRE(bent);
    return bent->pose;
}

}  // namespace

TEST_CASE("Poses: one that is a little off is settled by where the vertices of a fit lie") {
    const auto kit = demo_kit();
    Pose is = rest_pose(kit->joints), from;
    is.stretch.assign(kit->joints.size(), 1.1 * Mat3::Identity());  // a larger figure
    turn(*kit, is, "upper_arm_l", 40, Vec3::UnitZ()), turn(*kit, is, "shin_r", 30, Vec3::UnitX());
    from = is;
    turn(*kit, from, "upper_arm_l", 9, Vec3(1, 1, 0)), turn(*kit, from, "shin_r", -8, Vec3::UnitX());
    turn(*kit, from, "forearm_l", 7, Vec3::UnitY());
    const Points shape = skin(kit->mesh.positions, kit->joints, kit->weights, is);
    const Pose settled = settled_pose(*kit, shape, from);
    const auto worst = [&](const Pose& pose) {
        const Points a = pose_joints(kit->joints, pose).place, b = pose_joints(kit->joints, is).place;
        double most = 0;
        for (std::size_t j = 0; j < a.size(); ++j) most = std::max(most, (a[j] - b[j]).norm());
        return most;
    };
    REQUIRE(worst(from) > 40);
    CHECK(worst(settled) < 3);
}

TEST_CASE("Poses: marked limbs lead a skeleton into a seat") {
    const auto kit = demo_kit();
    Pose sits = rest_pose(kit->joints);
    for (const char* side : {"_l", "_r"}) {
        turn(*kit, sits, std::string("thigh") + side, -80, Vec3::UnitX());
        turn(*kit, sits, std::string("shin") + side, 80, Vec3::UnitX());
    }
    Mesh scan = kit->mesh;
    scan.positions = skin(kit->mesh.positions, kit->joints, kit->weights, sits);
    std::vector<PosePull> pulls;
    for (const auto& [name, at] : kit->landmarks)
        if (!name.starts_with("pupil")) pulls.push_back({at, at.at(scan.positions)});
    const auto bent = articulate(*kit, prepare_source(scan, {}), pulls, {}, {});
    REQUIRE(bent);
    for (const char* joint : {"thigh_l", "thigh_r", "shin_l", "shin_r"})
        CHECK(off(*kit, bent->pose, sits, joint) < 12);
}

TEST_CASE("Poses: one who sits, one arm raised, is found by face and surface alone") {
    const auto kit = demo_kit();
    Pose pose = rest_pose(kit->joints);
    for (const char* side : {"_l", "_r"}) {
        turn(*kit, pose, std::string("thigh") + side, -75, Vec3::UnitX());
        turn(*kit, pose, std::string("shin") + side, 82, Vec3::UnitX());
    }
    turn(*kit, pose, "clavicle_l", 17, Vec3::UnitZ());  // it rises with the arm
    turn(*kit, pose, "upper_arm_l", 68, Vec3::UnitZ());
    turn(*kit, pose, "forearm_r", 40, Vec3(-0.3, 1, 0));
    const Pose found = found_in(*kit, pose);
    for (const char* joint :
         {"thigh_l", "thigh_r", "shin_l", "shin_r", "upper_arm_l", "upper_arm_r", "forearm_l", "forearm_r"}) {
        INFO(joint);
        CHECK(off(*kit, found, pose, joint) < 15);
    }
}

TEST_CASE("Poses: a fist and an open hand are told apart") {
    const auto kit = demo_kit();
    const auto ranges = joint_ranges(kit->joints);
    Pose pose = rest_pose(kit->joints);
    for (std::size_t j = 0; j < kit->joints.size(); ++j)
        if (kit->joints[j].name.ends_with("_r") && of_finger(kit->joints[j].name) && !ranges[j].hinge.isZero())
            pose.turns[j] = Eigen::AngleAxisd(60 * M_PI / 180, ranges[j].hinge).toRotationMatrix();
    const Pose found = found_in(*kit, pose);
    for (const char* joint : {"index_1", "index_2", "middle_1", "ring_1", "ring_2", "little_1"}) {
        INFO(joint);
        CHECK(off(*kit, found, pose, std::string(joint) + "_r") < 25);
        CHECK(off(*kit, found, pose, std::string(joint) + "_l") < 10);
    }
}

TEST_CASE("Poses: a belly, a seat and hips say little of the pose, bones all") {
    const auto kit = demo_kit();
    const std::vector<double> firm = firmness(*kit);
    const auto at = [&](const char* name) { return firm[kit->landmarks.at(name).vertices[0]]; };
    for (const char* soft : {"omphalion", "gluteale_l", "gluteale_r", "thelion_l", "trochanterion_r"})
        CHECK(at(soft) < 0.2);
    for (const char* hard : {"patella_l", "olecranon_r", "pronasale", "acromion_l", "malleolus_lateral_r", "lumbale"})
        CHECK(at(hard) > 0.9);
    BaseKit bare = *kit;
    bare.landmarks.clear();
    CHECK(firmness(bare) == std::vector<double>(kit->mesh.positions.size(), 1));
}

TEST_CASE("Poses: joints that are marked say how to begin, and one that a hand placed stays there") {
    const auto kit = demo_kit();
    Pose pose = rest_pose(kit->joints);
    turn(*kit, pose, "thigh_l", -95, Vec3::UnitX()), turn(*kit, pose, "shin_l", 100, Vec3::UnitX());  // on one leg
    turn(*kit, pose, "upper_arm_r", 60, Vec3::UnitZ()), turn(*kit, pose, "forearm_r", 70, Vec3::UnitY());
    Mesh scan = kit->mesh;
    scan.positions = standing(*kit, pose);
    FitInput input;
    input.kit = kit.get(), input.source = &scan, input.unit = Unit::Millimetre;
    for (const auto& [name, at] : kit->landmarks)
        if (in_point_set(name, PointSet::Face)) input.landmarks.points[name] = at.at(scan.positions);
    const Points truth = pose_joints(kit->joints, pose).place;
    const auto off_by = [&](const std::map<std::string, JointMark>& found, const char* joint) {
        return (found.at(joint).at - truth[joint_of(*kit, joint)]).norm();
    };
    for (std::size_t j = 0; j < truth.size(); ++j)
        input.landmarks.joints[kit->joints[j].name] = {truth[j] + Vec3(20, -15, 10), false};
    const auto found = find_joints(input, true, {});
    REQUIRE(found);
    CHECK(found->size() == kit->joints.size());
    for (const char* joint : {"shin_l", "foot_l", "forearm_r", "hand_r", "foot_r", "hand_l"}) {
        INFO(joint);
        CHECK(off_by(*found, joint) < 12);
    }
    SECTION("by hand") {
        const Vec3 there = truth[joint_of(*kit, "hand_l")] + Vec3(0, 40, 30);
        input.landmarks.joints["hand_l"] = {there, true};
        input.landmarks.joints["antenna"] = {there, false};  // another skeleton's
        const auto held = find_joints(input, true, {});
        REQUIRE(held);
        CHECK(held->at("hand_l") == JointMark{there, true});
        // the elbow has moved with it, the other side has not
        CHECK(off_by(*held, "forearm_l") > 4);
        CHECK(off_by(*held, "forearm_r") < 15);
        // a fit begins there as well
        FitResult fit;
        const auto placed =
            place_by_landmarks({kit.get(), kit->landmarks, input.landmarks, input.unit, FitPart::All, true});
        REQUIRE(placed);
        fit.placement = *placed;
        input.settings.keep_true_size = true;
        const SourceSurface surface = prepare_source(scan, placed->source_to_kit);
        REQUIRE(take_pose(input, kit->landmarks, surface, fit, {}));
        REQUIRE(fit.pose);
        REQUIRE(fit.notes.size() == 1);
        CHECK(fit.notes[0].find("'antenna'") != std::string::npos);
        const Vec3 hand = pose_joints(kit->joints, *fit.pose).place[joint_of(*kit, "hand_l")];
        CHECK((hand - fit.placement.source_to_kit(there)).norm() < 25);
    }
    SECTION("stopped") {
        Progress stopped;
        stopped.cancelled = [] { return true; };
        const auto none = find_joints(input, true, stopped);
        REQUIRE_FALSE(none);
        CHECK(none.error().code == ErrorCode::Cancelled);
    }
}

TEST_CASE("Poses: what is still in a shape is found and taken out, and shape is left alone") {
    const auto kit = demo_kit();
    // a belly and a chin: shape, and no pose
    Points shape = kit->mesh.positions;
    for (const auto& [name, size, reach] : {std::tuple{"omphalion", 60.0, 110.0}, {"gnathion", 9.0, 25.0}}) {
        const Vec3 at = kit->landmarks.at(name).at(kit->mesh.positions);
        for (Vec3& p : shape) p.z() += size * std::exp(-(p - at).squaredNorm() / (2 * reach * reach));
    }
    const auto plain = find_pose(*kit, shape);
    REQUIRE(plain);
    for (const std::size_t j : plain->turned) UNSCOPED_INFO(kit->joints[j].name);
    CHECK(plain->turned.empty());

    Pose pose = rest_pose(kit->joints);
    turn(*kit, pose, "upper_arm_l", -24, Vec3::UnitZ()), turn(*kit, pose, "upper_arm_r", 21, Vec3::UnitZ());
    turn(*kit, pose, "shin_l", 18, Vec3::UnitX());
    const Points posed = skin(shape, joints_in(*kit, shape), kit->weights, pose);
    const auto found = find_pose(*kit, posed);
    REQUIRE(found);
    for (const char* joint : {"upper_arm_l", "upper_arm_r", "shin_l"}) {
        INFO(joint);
        CHECK(off(*kit, found->pose, pose, joint) < 3);
    }
    const auto rest = without_pose(*kit, posed, found->pose);
    REQUIRE(rest);
    std::vector<double> apart;
    Vec3 moved = Vec3::Zero();  // what stands on the other leg stands elsewhere
    for (std::size_t v = 0; v < shape.size(); ++v)
        moved += ((*rest)[v] - shape[v]) / static_cast<double>(shape.size());
    for (const Index v : kit->part("skin")->vertices) apart.push_back(((*rest)[v] - shape[v] - moved).norm());
    CHECK(median(apart) < 1.5);
    CHECK(quantile(apart, 0.95) < 6);

    const auto few = find_pose(*kit, Points(10, Vec3::Zero()));
    REQUIRE_FALSE(few);
    CHECK(few.error().message.find("10 vertices") != std::string::npos);
}

TEST_CASE("Poses: a shape in a pose and out of it again is the same") {
    const auto kit = demo_kit();
    const auto poses = stock_poses(kit->joints);
    REQUIRE(poses.size() == 13);
    const Points& base = kit->mesh.positions;
    for (const StockPose& stock : poses) {
        INFO(stock.name);
        const auto there = in_pose(*kit, base, stock.pose);
        REQUIRE(there);
        Pose pose = stock.pose;
        pose.move = place_of_pose(*kit, *there, pose);
        const auto back = without_pose(*kit, *there, pose);
        REQUIRE(back);
        std::vector<double> apart;  // where it is not folded: there skin has no way back
        for (const Index v : kit->part("skin")->vertices) apart.push_back(((*back)[v] - base[v]).norm());
        CHECK(quantile(apart, 0.9) < 1e-3);
    }
}

TEST_CASE("Poses: a kit without skin weights says that it knows none") {
    BaseKit kit = *demo_kit();
    kit.weights = {};
    const Points& base = kit.mesh.positions;
    for (const auto& error : {find_pose(kit, base).error(), without_pose(kit, base, rest_pose(kit.joints)).error(),
                              in_pose(kit, base, rest_pose(kit.joints)).error()})
        CHECK(error.message.find("no joints with skin weights") != std::string::npos);
}

TEST_CASE("Poses: stock poses are what they are called") {
    const auto kit = demo_kit();
    const auto in = [&](const std::string& name) {
        for (const StockPose& stock : stock_poses(kit->joints))
            if (stock.name == name) return pose_joints(kit->joints, stock.pose).place;
        throw std::runtime_error("no pose " + name);
    };
    const auto at = [&](const Points& places, const std::string& joint) { return places[joint_of(*kit, joint)]; };
    const Points rest = pose_joints(kit->joints, rest_pose(kit->joints)).place;
    const Points level = in("T"), up = in("arms up"), sits = in("sit"), strides = in("stride"), fists = in("fists");
    CHECK(std::abs(at(level, "hand_l").y() - at(level, "upper_arm_l").y()) < 1);
    CHECK(at(up, "hand_l").y() > at(up, "head").y());
    CHECK(std::abs(at(sits, "shin_r").y() - at(sits, "thigh_r").y()) < 80);
    CHECK(at(strides, "foot_l").z() > at(strides, "foot_r").z() + 200);
    for (const char* side : {"_l", "_r"}) {
        for (const char* finger : {"index", "middle", "ring", "little"}) {
            const std::string tip = std::string(finger) + "_3" + side, hand = std::string("hand") + side;
            CHECK((at(fists, tip) - at(fists, hand)).norm() < 0.85 * (at(rest, tip) - at(rest, hand)).norm());
        }
    }
    CHECK(stock_poses({{"root", -1, Vec3::Zero()}}).empty());
}

TEST_CASE("Poses: the stoop of a sculpt that came back is found as it is, and its arms hardly turn") {
    const auto kit = demo_kit();
    const auto warden = read_mesh(demo("returns/warden_clean.obj"));
    REQUIRE(warden);
    const auto found = find_pose(*kit, warden->mesh.positions);
    REQUIRE(found);
    // its neck stands 14.4 degrees farther forwards than the base's, by the truth beside it; its legs are the base's
    const Points places = pose_joints(kit->joints, found->pose).place;
    const auto way = [&](const Points& at) {
        return (at[joint_of(*kit, "head")] - at[joint_of(*kit, "neck")]).normalized();
    };
    const double forwards = std::acos(way(places).dot(way(joint_places(*kit, kit->mesh.positions)))) * 180 / M_PI;
    CHECK(forwards == Approx(14.4).margin(4));
    for (const char* joint : {"thigh_l", "thigh_r", "shin_l", "shin_r", "forearm_l", "forearm_r"}) {
        INFO(joint);
        CHECK(off(*kit, found->pose, rest_pose(kit->joints), joint) < 2);
    }
}

TEST_CASE("Joint ranges: turns as degrees and back, and the other side's joint") {
    const auto kit = demo_kit();
    for (const Vec3& degrees : {Vec3(10, -20, 30), Vec3(-150, 5, 170), Vec3(0, 89, 0), Vec3(0, 90, 40)}) {
        const Mat3 turn = turn_by_degrees(degrees);
        CHECK((turn_by_degrees(degrees_of_turn(turn)) - turn).norm() < 1e-9);
    }
    CHECK((degrees_of_turn(turn_by_degrees({10, -20, 30})) - Vec3(10, -20, 30)).norm() < 1e-9);
    const int left = static_cast<int>(joint_of(*kit, "shin_l")), right = static_cast<int>(joint_of(*kit, "shin_r"));
    CHECK(other_side(kit->joints, left) == right);
    CHECK(other_side(kit->joints, 0) == -1);
}

TEST_CASE("Joint ranges: fingers fingers bend towards the palm, left as right") {
    const auto kit = demo_kit();
    const auto ranges = joint_ranges(kit->joints);
    for (std::size_t j = 0; j < ranges.size(); ++j) {
        std::string name = kit->joints[j].name;
        INFO(name);
        // a cost is never below nothing
        CHECK(ranges[j].stiffness.selfadjointView<Eigen::Lower>().eigenvalues().minCoeff() > -1e-6);
        if (!name.ends_with("_l") || ranges[j].hinge.isZero()) continue;
        name.back() = 'r';
        const Vec3 other = ranges[joint_of(*kit, name)].hinge;
        // mirrored: an axis keeps its X and turns the rest
        CHECK((ranges[j].hinge - Vec3(other.x(), -other.y(), -other.z())).norm() < 0.05);
    }
    CHECK(ranges[joint_of(*kit, "index_2_l")].like == static_cast<int>(joint_of(*kit, "index_1_l")));
}
