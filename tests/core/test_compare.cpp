// Two shapes beside each other.
#include <catch2/catch.hpp>

#include "core/fit/compare.h"
#include "tests/support/demo_kit.h"
#include "tests/support/small_meshes.h"

using namespace veld;

TEST_CASE("Compare: a shape with itself, moved, grown, and turned") {
    const auto kit = demo_kit();
    const Mesh& base = kit->mesh;
    SECTION("itself") {
        const auto d = compare_shapes(kit.get(), base, base, Align::None, {});
        REQUIRE(d);
        CHECK(d->same_topology);
        CHECK(d->moved.max == 0);
        CHECK(d->first_to_second.distance.max < 1e-9);
        CHECK(d->edge_max == Approx(1));
        CHECK(d->flipped_faces == 0);
        CHECK(d->first_cuts == d->second_cuts);
    }
    SECTION("grown outwards by half a millimetre") {
        Mesh grown = base;
        const Points normals = vertex_normals(base.positions, kit->triangulation.triangles);
        for (const Index v : kit->region("skull")) grown.positions[v] += 0.5 * normals[v];
        const auto d = compare_shapes(kit.get(), base, grown, Align::None, {});
        REQUIRE(d);
        CHECK(d->regions.at("skull").median == Approx(0.5).margin(1e-6));
        CHECK(d->regions.at("foot_l").max == 0);
        CHECK(d->second_to_first_surface.mean > 0);
        CHECK(d->first_to_second.mean > 0);
        const auto back = compare_shapes(kit.get(), grown, base, Align::None, {});
        CHECK(back->second_to_first_surface.mean < 0);
    }
    SECTION("brought together again") {
        Similarity away;
        away.scale = 1.2;
        away.rotation = Eigen::AngleAxisd(0.2, Vec3::UnitY()).toRotationMatrix();
        away.translation = Vec3(30, 10, -20);
        Mesh other = base;
        for (Vec3& p : other.positions) p = away(p);
        const auto d = compare_shapes(kit.get(), base, other, Align::Similarity, {});
        REQUIRE(d);
        CHECK(d->moved.max < 1e-6);
        CHECK(d->second_to_first.scale == Approx(1 / 1.2));
        const auto rigid = compare_shapes(kit.get(), base, other, Align::Rigid, {});
        CHECK(rigid->second_to_first.scale == Approx(1));
        CHECK(rigid->moved.max > 50);
    }
}

TEST_CASE("Compare: meshes of another topology by their surfaces, broken ones refused") {
    Mesh a = cube(), b = cube();
    for (Vec3& p : b.positions) p = p * 100;
    for (Vec3& p : a.positions) p = p * 100;
    for (Vec3& p : b.positions) p.x() += 3;
    const auto d = compare_shapes(nullptr, a, b, Align::None, {});
    REQUIRE(d);
    CHECK_FALSE(d->same_topology);
    CHECK(d->second_to_first_surface.distance.max == Approx(3));
    b.positions[0].x() = std::nan("");
    const auto broken = compare_shapes(nullptr, a, b, Align::None, {});
    REQUIRE_FALSE(broken);
    CHECK(broken.error().message.find("second") != std::string::npos);
    Progress stop;
    stop.cancelled = [] { return true; };
    b = a;
    const auto none = compare_shapes(nullptr, a, b, Align::None, stop);
    REQUIRE_FALSE(none);
    CHECK(none.error().code == ErrorCode::Cancelled);
}
