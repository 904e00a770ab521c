// Joints that go with the shape.
#include <catch2/catch.hpp>

#include "core/base/file.h"
#include "core/exchange/export.h"
#include "core/exchange/joints_out.h"
#include "core/io/mesh_file.h"
#include "core/kit/kit_surface.h"
#include "core/kit/write_kit.h"
#include "core/kit_making/edit_kit.h"
#include "core/linalg/statistics.h"
#include "core/morph/arithmetic.h"
#include "core/morph/joint_moves.h"
#include "core/rig/joint_range.h"
#include "core/rig/pose.h"
#include "demo/standins/made_up_figure.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

// A flat band of two joints, the left half on the first and the right half on the second one; one edge is `step` mm.
struct Band {
    Points shape;
    std::vector<Triangle> triangles;
    SkinWeights weights;
    explicit Band(double step) {
        const Index across = 5, along = static_cast<Index>(std::lround(120 / step)) + 1;
        for (Index i = 0; i < along; ++i) {
            for (Index j = 0; j < across; ++j) {
                shape.emplace_back(-60 + step * i, step * j, 0);
                const bool right = shape.back().x() > 0;
                weights.joint.push_back({static_cast<std::uint16_t>(right), 0, 0, 0});
                weights.weight.push_back({1, 0, 0, 0});
                if (i == 0 || j == 0) continue;
                const Index v = i * across + j;
                triangles.push_back({v, v - 1, v - across});
                triangles.push_back({v - 1, v - across - 1, v - across});
            }
        }
    }
};

double held_by(const ShapeWeights& weights, std::size_t v, std::uint16_t joint) {
    double out = 0;
    for (const SkinWeights* set : {&weights.first, &weights.next})
        for (std::size_t k = 0; v < set->weight.size() && k < 4; ++k)
            out += set->joint[v][k] == joint ? set->weight[v][k] : 0;
    return out;
}

// How far from the middle the second joint still holds a tenth.
double fades_over(const Band& band, double smooth_mm) {
    const auto out = shape_weights(band.shape, band.triangles, band.weights, 2, {smooth_mm, 4});
    REQUIRE(out);
    CHECK(check_weights(*out, 2, 4).is_right());
    double reach = 0;
    for (std::size_t v = 0; v < band.shape.size(); ++v)
        if (held_by(*out, v, 1) > 0.1) reach = std::max(reach, -band.shape[v].x());
    return reach;
}

}  // namespace

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

TEST_CASE("Joint ties: by shares that people paint, on both sides, kept with the kit and taken back") {
    const auto kit = demo_kit();
    const auto number = [&](const std::string& name) {
        for (std::size_t j = 0; j < kit->joints.size(); ++j)
            if (kit->joints[j].name == name) return j;
        throw std::runtime_error("no joint " + name);
    };
    std::vector<double> shares(kit->mesh.positions.size(), 0);
    for (const Index v : kit->region("shin_l")) shares[v] = 1;
    const auto ties = ties_by_shares(*kit, "shin_l", shares, true);
    REQUIRE(ties);
    REQUIRE(ties->size() == 2);
    KitEdits edits;
    edits.ties = *ties;
    const auto tied = edited_kit(*kit, edits);
    REQUIRE(tied);
    const std::vector<double> shown = shares_of(joint_ties(*tied)[number("shin_l")], shares.size());
    for (std::size_t v = 0; v < shares.size(); ++v)
        if (shares[v] == 0) REQUIRE(shown[v] == 0);
    CHECK(*std::max_element(shown.begin(), shown.end()) == 1);
    // nothing has moved on the base; a shape that grows there alone moves both knees alike
    const Points at = joint_places(*tied, kit->mesh.positions);
    Points grown = kit->mesh.positions;
    for (const char* side : {"shin_l", "shin_r"}) {
        CHECK((at[number(side)] - kit->joints[number(side)].position).norm() < 1e-6);
        for (const Index v : kit->region(side)) grown[v] += Vec3(0, 0, 10);
    }
    const Points after = joint_places(*tied, grown);
    for (const char* side : {"shin_l", "shin_r"})
        CHECK((after[number(side)] - at[number(side)] - Vec3(0, 0, 10)).norm() < 1e-6);
    edits.ties["shin_l"] = edits.ties["shin_r"] = {};
    const auto back = edited_kit(*tied, edits);
    REQUIRE(back);
    CHECK(back->joint_ties.empty());
    CHECK(joint_ties(*back) == joint_ties(*kit));
    SECTION("a joint in the middle is told alike by both sides") {
        std::vector<double> left(shares.size(), 0);
        for (const Index v : kit->region("ear_l")) left[v] = 1;
        const auto head = ties_by_shares(*kit, "head", left, true);
        REQUIRE(head);
        const std::vector<double> both = shares_of(head->at("head"), left.size());
        for (const Index v : kit->region("ear_l")) CHECK(both[v] == Approx(both[kit->mirror[v]]).margin(1e-9));
    }
    SECTION("too little, what lies in a plane, and no joint are refused by name") {
        std::vector<double> few(shares.size(), 0);
        for (std::size_t i = 0; i < 3; ++i) few[kit->region("shin_l")[i]] = 1;
        const auto refused = ties_by_shares(*kit, "shin_l", few, false);
        REQUIRE_FALSE(refused);
        CHECK(refused.error().message.find("'shin_l'") != std::string::npos);
        CHECK_FALSE(ties_by_shares(*kit, "tail", shares, false));
        Points flat = kit->mesh.positions;
        for (Vec3& p : flat) p.z() = 0;
        CHECK(tie_by_shares(flat, {0, 0, 5}, shares).vertex.empty());
        edits.ties = {{"tail", {}}};
        CHECK_FALSE(edited_kit(*kit, edits));
        edits.ties = {{"head", {{4000000}, {1}}}};
        CHECK_FALSE(edited_kit(*kit, edits));
    }
}

TEST_CASE("Skin weights: smoothed over millimetres of the shape, whatever its edges; sums stay 1") {
    const Band coarse(4), fine(2);
    CHECK(fades_over(fine, 0) == 0);
    const double narrow = fades_over(fine, 8), wide = fades_over(fine, 16), of_coarse = fades_over(coarse, 16);
    CHECK(narrow > 4);
    CHECK(wide > 1.6 * narrow);
    CHECK(wide < 2.4 * narrow);
    CHECK(std::abs(of_coarse - wide) <= 4);
    // a shape that is stretched fades over the same length, not over the same vertices
    Band stretched = fine;
    for (Vec3& p : stretched.shape) p.x() *= 2;
    CHECK(std::abs(fades_over(stretched, 16) - wide) <= 4);
    SECTION("what is wrong with weights is counted") {
        ShapeWeights bad{fine.weights, {}};
        bad.first.weight[0] = {0.5, 0, 0, 0};
        bad.first.weight[1] = {1.5, -0.5, 0, 0};
        bad.first.joint[2] = {7, 0, 0, 0};
        const WeightCheck check = check_weights(bad, 2, 4);
        CHECK(check.wrong_sum == 1);
        CHECK(check.strange == 2);
        CHECK(check.worst_sum == Approx(0.5));
        CHECK_FALSE(check.is_right());
        CHECK_FALSE(shape_weights(fine.shape, fine.triangles, fine.weights, 2, {0, 5}));
    }
}

TEST_CASE("Skin weights: of the demo's base at most four or eight joints, alike on both sides, and out as GLB") {
    const auto kit = demo_kit();
    const Points& shape = kit->mesh.positions;
    for (const int most : {4, 8}) {
        const WeightSettings settings{20, most};
        const auto out = shape_weights(shape, skin_triangles(*kit), kit->weights, kit->joints.size(), settings);
        REQUIRE(out);
        const WeightCheck check = check_weights(*out, kit->joints.size(), most);
        CHECK(check.is_right());
        CHECK(check.most == most);  // at the hand many fingers meet
        CHECK(out->next.weight.empty() == (most == 4));
        if (most == 8) CHECK(check_weights(*out, kit->joints.size(), 4).too_many > 0);
        std::uint16_t left = 0, right = 0;
        for (std::size_t j = 0; j < kit->joints.size(); ++j) {
            if (kit->joints[j].name == "forearm_l") left = static_cast<std::uint16_t>(j);
            if (kit->joints[j].name == "forearm_r") right = static_cast<std::uint16_t>(j);
        }
        double uneven = 0;
        for (const Index v : kit->region("upper_arm_l"))
            uneven = std::max(uneven, std::abs(held_by(*out, v, left) - held_by(*out, kit->mirror[v], right)));
        CHECK(uneven < 0.02);
        const Scratch folder;
        const auto written = export_posable_glb(*kit, shape, kit->joints, folder / "w.glb", settings);
        REQUIRE(written);
        CHECK(written->most == most);
        CHECK((read_file(folder / "w.glb")->view().find("JOINTS_1") != std::string_view::npos) == (most == 8));
        const auto again = read_mesh(folder / "w.glb");
        REQUIRE(again);
        REQUIRE(again->skin);
        CHECK(check_weights({again->skin->weights, {}}, again->skin->joints.size(), 4).is_right());
    }
}
