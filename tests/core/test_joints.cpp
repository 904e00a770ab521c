// Joints that go with the shape.
#include <catch2/catch.hpp>

#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/exchange/joints_out.h"
#include "core/io/mesh_file.h"
#include "core/kit/write_kit.h"
#include "core/linalg/statistics.h"
#include "core/morph/arithmetic.h"
#include "core/morph/joint_moves.h"
#include "core/rig/joint_range.h"
#include "core/rig/pose.h"
#include "demo/standins/made_up_figure.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

TEST_CASE("Joint ties: exact on the base, under every affine change of it, and mirror-exact") {
    const auto kit = demo_kit();
    Mat3 turn;
    turn << 1.1, 0.2, 0, -0.1, 0.9, 0.3, 0.05, 0, 1.3;
    const Vec3 move(10, -20, 30);
    Points other = kit->mesh.positions;
    for (Vec3& p : other) p = turn * p + move;
    const Points here = joint_places(*kit, kit->mesh.positions), there = joint_places(*kit, other);
    for (std::size_t j = 0; j < here.size(); ++j) {
        INFO(kit->joints[j].name);
        REQUIRE_FALSE(joint_ties(*kit)[j].vertex.empty());
        CHECK((here[j] - kit->joints[j].position).norm() < 1e-6);
        CHECK((there[j] - (turn * kit->joints[j].position + move)).norm() < 1e-6);
    }
    SECTION("a shape with its sides exchanged has its joints exchanged") {
        Points odd = kit->mesh.positions;
        for (std::size_t v = 0; v < odd.size(); ++v)
            odd[v] += 8 * Vec3(std::sin(0.01 * odd[v].y()), std::cos(0.02 * odd[v].x()), std::sin(0.013 * odd[v].x()));
        Points exchanged(odd.size());
        const auto mirrored = [](const Vec3& p) { return Vec3(-p.x(), p.y(), p.z()); };
        for (std::size_t v = 0; v < odd.size(); ++v) exchanged[kit->mirror[v]] = mirrored(odd[v]);
        const Points a = joint_places(*kit, odd), b = joint_places(*kit, exchanged);
        for (std::size_t j = 0; j < a.size(); ++j) {
            std::string name = kit->joints[j].name;
            if (name.ends_with("_l") || name.ends_with("_r")) name.back() = name.back() == 'l' ? 'r' : 'l';
            for (std::size_t k = 0; k < a.size(); ++k) {
                INFO(name);
                if (kit->joints[k].name == name) CHECK((b[k] - mirrored(a[j])).norm() < 1e-6);
            }
        }
    }
}

TEST_CASE("Joint ties: limbs and fingers of figures with other bones and more flesh, against their truth") {
    const auto kit = demo_kit();
    for (const unsigned seed : {2u, 4u, 8u}) {  // heavy, child, stylised
        FigureOptions options;
        options.seed = seed, options.cell_mm = 40;  // the scan is not looked at
        const MadeUpFigure f = make_figure(*kit, options);
        const Points found = joint_places(*kit, f.rest);
        std::vector<double> limbs, fingers;
        for (std::size_t j = 0; j < found.size(); ++j) {
            const std::string& name = kit->joints[j].name;
            const double off = (found[j] - f.rest_joints[j]).norm();
            if (of_finger(name)) fingers.push_back(off);
            for (const char* limb : {"forearm", "hand", "shin", "foot", "toe", "eye"})
                if (name.starts_with(limb)) limbs.push_back(off);
        }
        INFO(build_name(f.build));
        CHECK(*std::max_element(limbs.begin(), limbs.end()) < 4);
        CHECK(*std::max_element(fingers.begin(), fingers.end()) < 2);
    }
}

TEST_CASE("Joint moves: linear in the mix, fixed ones stay, and files keep them") {
    const auto kit = demo_kit();
    Points taller = kit->mesh.positions;
    for (Vec3& p : taller) p.y() *= 1.05;
    Morph tall = *make_morph(*kit, taller, "tall");
    tall.root = Vec3(0, 3, 0);
    const auto by = [&](const std::string& name, const std::vector<Joint>& joints) {
        for (std::size_t j = 0; j < joints.size(); ++j)
            if (joints[j].name == name) return Vec3(joints[j].position - kit->joints[j].position);
        return Vec3(Vec3::Constant(1e9));
    };
    const double head_y = 1545;
    CHECK(by("head", mixed_joints(*kit, {{&tall, 1}})).y() == Approx(0.05 * head_y + 3).margin(1e-3));
    CHECK(by("head", mixed_joints(*kit, {{&tall, 0.5}})).y() == Approx(0.5 * (0.05 * head_y + 3)).margin(1e-3));
    tall.joints["head"] = Vec3(0, 10, 0);
    CHECK(by("head", mixed_joints(*kit, {{&tall, 2}})).y() == Approx(2 * (10 + 3)));
    SECTION("in files") {
        const auto text = parse_morph(morph_text(tall), "t", *kit), bytes = parse_morph(morph_bytes(tall), "b", *kit);
        REQUIRE(text);
        REQUIRE(bytes);
        CHECK(text->joints == tall.joints);
        CHECK(*bytes == tall);
        const Scratch folder;
        REQUIRE(export_glb(*kit, {{&tall, 0}}, folder / "t.glb"));
        const auto again = import_morphs(*kit, folder / "t.glb", {});
        REQUIRE(again);
        REQUIRE(again->size() == 1);
        CHECK(again->front().joints == tall.joints);
        std::string broken = morph_text(tall);
        broken.replace(broken.find("[0.0,10.0,0.0]"), 14, "[0.0,\"a\",0.0]");
        CHECK_FALSE(parse_morph(broken, "t", *kit));
    }
    SECTION("in sums and mirrored sides") {
        tall.joints["hand_l"] = Vec3(1, 2, 3);
        const auto sum = sum_morphs(*kit, {{&tall, 2}}, "sum");
        REQUIRE(sum);
        CHECK((sum->joints.at("head") - Vec3(0, 20, 0)).norm() < 1e-9);
        const auto other = mirrored_morph(*kit, tall, "other");
        REQUIRE(other);
        CHECK(other->joints.at("hand_r") == Vec3(-1, 2, 3));
        CHECK_FALSE(other->joints.contains("hand_l"));
        CHECK(half_morph(*kit, tall, Side::Left, 8, "half")->joints.empty());
    }
    SECTION("all at once") {
        Morph fixed = tall;
        fix_joints(*kit, fixed);
        CHECK(fixed.joints.size() == kit->joints.size());
        CHECK(fixed.joints.at("head") == Vec3(0, 10, 0));
        const auto a = mixed_joints(*kit, {{&fixed, 1}}), b = mixed_joints(*kit, {{&tall, 1}});
        for (std::size_t j = 0; j < a.size(); ++j) CHECK((a[j].position - b[j].position).norm() < 1e-9);
    }
}

TEST_CASE("Joints out: a posable GLB has its skeleton where the shape has it") {
    const auto kit = demo_kit();
    Points taller = kit->mesh.positions;
    for (Vec3& p : taller) p.y() *= 1.05;
    const Scratch folder;
    const std::vector<Joint> joints = joints_in(*kit, taller);
    REQUIRE(export_posable_glb(*kit, taller, joints, folder / "tall.glb"));
    const auto file = read_mesh(folder / "tall.glb");
    REQUIRE(file);
    REQUIRE(file->skin);
    for (const Joint& joint : file->skin->joints) {
        for (const Joint& wanted : joints)
            if (wanted.name == joint.name) CHECK((1000 * joint.position - wanted.position).norm() < 0.01);
    }
    CHECK(file->skin->joints.size() == joints.size());
    CHECK(joints_text(*kit, joints).find("\"veldstone-joints\"") != std::string::npos);
}

TEST_CASE("Joint ties: a kit keeps those that people made, and says what is wrong with them") {
    BaseKit kit = *demo_kit();
    kit.joint_ties["head"] = {{1591, 1404}, {0.25, 0.75}};
    const Scratch folder;
    REQUIRE(write_base_kit(kit, folder / "kit"));
    const auto again = read_base_kit(folder / "kit");
    REQUIRE(again);
    CHECK(again->joint_ties == kit.joint_ties);
    const Points& x = again->mesh.positions;
    for (std::size_t j = 0; j < again->joints.size(); ++j) {
        if (again->joints[j].name == "head")
            CHECK((joint_places(*again, x)[j] - (0.25 * x[1591] + 0.75 * x[1404])).norm() < 1e-9);
    }
    kit.joint_ties["head"].weight = {0.25, 0.5};
    REQUIRE(write_base_kit(kit, folder / "bad"));
    const auto bad = read_base_kit(folder / "bad");
    REQUIRE_FALSE(bad);
    CHECK(bad.error().message.find("'joint_ties' of 'head'") != std::string::npos);
}
