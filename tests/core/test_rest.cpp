// Rest shapes of figures: how sure they are, and skin that cuts itself once the pose is out.
#include <catch2/catch.hpp>

#include "core/fit/figures.h"
#include "core/fit/find_pose.h"
#include "core/fit/jaw.h"
#include "core/fit/rest_doubt.h"
#include "core/fit/rest_repair.h"
#include "core/kit/kit_surface.h"
#include "core/rig/pose.h"
#include "core/spatial/self_intersections.h"
#include "tests/support/apart.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

// The skin inside of the left thigh pulled through the right one.
Points pulled_through(const BaseKit& kit, Points x) {
    Vec3 middle = Vec3::Zero();
    const VertexIndices& thigh = kit.region("thigh_l");
    for (const Index v : thigh) middle += x[v] / static_cast<double>(thigh.size());
    for (const Index v : thigh) {
        const Vec3 off = x[v] - Vec3(0, middle.y(), middle.z());
        x[v].x() -= 160 * std::exp(-off.squaredNorm() / (2 * 40.0 * 40.0));
    }
    return x;
}

std::size_t new_cuts(const BaseKit& kit, const Points& x) {
    const auto all = self_intersections(x, skin_triangles(kit));
    return static_cast<std::size_t>(std::count_if(all.begin(), all.end(), [&](const auto& pair) {
        return !std::binary_search(skin_cuts(kit).begin(), skin_cuts(kit).end(), pair);
    }));
}

}  // namespace

TEST_CASE("Rest shapes: skin that cuts itself becomes what its surroundings make of the base, the rest stays") {
    const auto kit = demo_kit();
    Points wide = kit->mesh.positions;  // a figure of another build: the base stretched and bent
    for (Vec3& p : wide) p = Vec3(1.15 * p.x(), 1.05 * p.y(), 1.1 * p.z() + 5 * std::sin(0.01 * p.y()));
    REQUIRE(new_cuts(*kit, wide) == 0);
    Points same = wide;
    CHECK(repair_rest(*kit, same).vertices.empty());
    CHECK(same == wide);
    const Points cut = pulled_through(*kit, wide);
    REQUIRE(new_cuts(*kit, cut) > 20);
    Points mended = cut;
    const RestRepair repair = repair_rest(*kit, mended);
    CHECK(repair.cuts_before == new_cuts(*kit, cut));
    CHECK(repair.cuts_after == 0);
    CHECK(new_cuts(*kit, mended) == 0);
    for (Index v = 0; v < cut.size(); ++v)
        if (!std::binary_search(repair.vertices.begin(), repair.vertices.end(), v)) REQUIRE(mended[v] == cut[v]);
    double before = 0, after = 0;
    for (const Index v : repair.vertices) before += (cut[v] - wide[v]).norm(), after += (mended[v] - wide[v]).norm();
    CHECK(after < 0.5 * before);
    SECTION("of a figure in a pose too: at rest it is whole") {
        Pose spread = rest_pose(kit->joints);
        for (std::size_t j = 0; j < kit->joints.size(); ++j) {
            const double side = kit->joints[j].name == "thigh_l" ? 1 : kit->joints[j].name == "thigh_r" ? -1 : 0;
            if (side != 0) spread.turns[j] = Eigen::AngleAxisd(0.5 * side, Vec3::UnitZ()).toRotationMatrix();
        }
        Points posed = skin(cut, kit->joints, kit->weights, spread);
        const Points posed_before = posed;
        const RestRepair of_posed = repair_rest(*kit, spread, posed);
        CHECK(of_posed.cuts_after == 0);
        const Points rest = unposed(posed, kit->joints, kit->weights, spread);
        CHECK(new_cuts(*kit, rest) == 0);
        CHECK(apart(rest, mended) < 0.01);
        for (Index v = 0; v < posed.size(); ++v)
            if (!std::binary_search(of_posed.vertices.begin(), of_posed.vertices.end(), v))
                REQUIRE(posed[v] == posed_before[v]);
    }
}

TEST_CASE("Rest shapes: a figure's parted lips are its shape, no turn of its jaw") {
    const auto kit = demo_kit();
    Points parted = kit->mesh.positions;
    std::size_t jaw = 0;
    for (std::size_t j = 0; j < kit->joints.size(); ++j)
        if (kit->joints[j].name == "jaw") jaw = j;
    for (std::size_t v = 0; v < parted.size(); ++v)
        for (std::size_t k = 0; k < 4; ++k)
            if (kit->weights.joint[v][k] == jaw) parted[v].y() -= 4 * kit->weights.weight[v][k];
    const Pose settled = settled_pose(*kit, parted, rest_pose(kit->joints));
    CHECK(Eigen::AngleAxisd(settled.turns[jaw]).angle() < 1e-3);
    // a sculpt that came back with its mouth open is another matter: there it is a pose
    Pose open = rest_pose(kit->joints);
    open.turns[jaw] = Eigen::AngleAxisd(0.3, Vec3::UnitX()).toRotationMatrix();
    const auto found = find_pose(*kit, skin(kit->mesh.positions, kit->joints, kit->weights, open));
    REQUIRE(found);
    CHECK(Eigen::AngleAxisd(found->pose.turns[jaw]).angle() > 0.05);
}

TEST_CASE("Rest shapes: the less is known of a rest shape, and the odder it is, the less sure it is said to be") {
    const auto kit = demo_kit();
    const Points& base = kit->mesh.positions;
    std::vector<float> seen(base.size(), 0.1f);
    Pose still = rest_pose(kit->joints);
    for (std::size_t j = 0; j < kit->joints.size(); ++j)  // of a figure, that hardly moved
        if (kit->joints[j].name == "spine_1") still.turns[j] = Eigen::AngleAxisd(1e-6, Vec3::UnitX()).matrix();
    const auto usual = rest_doubts(*kit, base, still, seen);
    REQUIRE(usual.contains("upper_arm_l"));
    REQUIRE(usual.contains("torso"));
    CHECK(usual.at("torso").signs.uneven < 0.2);
    CHECK(usual.at("torso").signs.left < 0.01);
    Points odd = base;  // one arm is thicker than the other
    for (const Index v : kit->region("upper_arm_l")) odd[v].z() += 12;
    const auto uneven = rest_doubts(*kit, odd, still, seen);
    CHECK(uneven.at("upper_arm_l").signs.uneven > 4);
    CHECK(uneven.at("upper_arm_l").expected_mm > usual.at("upper_arm_l").expected_mm);
    CHECK(uneven.at("upper_arm_r").signs.uneven == Approx(uneven.at("upper_arm_l").signs.uneven).margin(0.5));
    for (const Index v : kit->region("hip")) seen[v] = std::numeric_limits<float>::quiet_NaN();
    const auto hidden = rest_doubts(*kit, base, still, seen);
    CHECK(hidden.at("hip").signs.guessed == 1);
    CHECK(hidden.at("hip").expected_mm >= usual.at("hip").expected_mm);
    Pose bent = still;
    for (std::size_t j = 0; j < kit->joints.size(); ++j)
        if (kit->joints[j].name == "forearm_l") bent.turns[j] = Eigen::AngleAxisd(1, Vec3::UnitX()).toRotationMatrix();
    const Points posed = skin(base, kit->joints, kit->weights, bent);
    const auto turned = rest_doubts(*kit, posed, bent, seen);
    CHECK(turned.at("hand_all_l").signs.turned == Approx(180 / M_PI).epsilon(0.01));
    CHECK(turned.at("upper_arm_l").signs.turned == Approx(0).margin(1e-3));
    SECTION("kept with the figures") {
        FitFigures figures;
        figures.rest = turned;
        CHECK(parse_figures(figures_text(figures)).rest == turned);
    }
    SECTION("a head's jaw is no pose of a figure") {
        CHECK(rest_doubts(*kit, base, jaw_pose(*kit, 10), seen).empty());
    }
}
