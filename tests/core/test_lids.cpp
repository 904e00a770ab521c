// Eyelids that hang or are shut: told on the surface, followed by a fit, and open again in the shape that is handed
// out. And commissures in their slits.
#include <catch2/catch.hpp>

#include "core/detect/caliper.h"
#include "core/detect/find_lids.h"
#include "core/fit/fit.h"
#include "core/fit/jaw.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/rig/pose.h"
#include "demo/standins/foreign/scan.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

Points lidded(double share) { return move_lids(*demo_kit(), demo_kit()->mesh.positions, {share, share}); }

std::map<std::string, Vec3> lid_marks_on(const Points& shape) {
    std::map<std::string, Vec3> out;
    for (const auto& [name, place] : demo_kit()->landmarks) out[name] = place.at(shape);
    return out;
}

// Skin and eyes of the kit in that shape, without lashes.
Mesh solid_of(const Points& shape) {
    Mesh out;
    out.positions = shape;
    for (const Triangle& t : solid_triangles(*demo_kit())) {
        out.corner_vertex.insert(out.corner_vertex.end(), t.begin(), t.end());
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

}  // namespace

TEST_CASE("Lids: how open an eye is does not change with its frame, nor when a point slides along a lid") {
    std::map<std::string, Vec3> marks = {{"palpebrale_superius_l", Vec3(15, 6, 2)},
                                         {"palpebrale_inferius_l", Vec3(15, -6, 2)},
                                         {"endocanthion_l", Vec3(0, 0, 0)},
                                         {"exocanthion_l", Vec3(30, 0, 0)}};
    REQUIRE(*eye_opening(marks, true) == Approx(0.4));
    marks["palpebrale_superius_l"].x() += 5;
    REQUIRE(*eye_opening(marks, true) == Approx(0.4));
    const Similarity turn{3, Eigen::AngleAxisd(0.7, Vec3(1, 2, 3).normalized()).toRotationMatrix(), Vec3(4, 5, 6)};
    for (auto& [name, p] : marks) p = turn(p);
    REQUIRE(*eye_opening(marks, true) == Approx(0.4));
    REQUIRE_FALSE(eye_opening(marks, false));
    marks["exocanthion_l"] = marks["endocanthion_l"];
    REQUIRE_FALSE(eye_opening(marks, true));
    CHECK(lid_state(0.35) == LidState::Open);
    CHECK(lid_state(0.18) == LidState::Half);
    CHECK(lid_state(0.02) == LidState::Shut);
}

TEST_CASE("Lids: marked lids say how far the kit's must come down, each eye for itself") {
    const BaseKit& kit = *demo_kit();
    REQUIRE(can_blink(kit));
    CHECK(lids_of(kit, kit.landmarks, lid_marks_on(lidded(0))) == LidsShut{0, 0});
    const LidsShut both = lids_of(kit, kit.landmarks, lid_marks_on(lidded(0.6)));
    CHECK(both[0] == Approx(0.6).margin(0.06));
    CHECK(both[1] == Approx(0.6).margin(0.06));
    const Points wink = move_lids(kit, kit.mesh.positions, {0, 1});
    const LidsShut one = lids_of(kit, kit.landmarks, lid_marks_on(wink));
    CHECK(one[0] == 0);
    CHECK(one[1] > 0.85);
    // there and back
    const Points back = move_lids(kit, wink, {0, -1});
    for (std::size_t v = 0; v < back.size(); ++v) REQUIRE((back[v] - kit.mesh.positions[v]).norm() < 1e-9);
    BaseKit without = kit;
    without.expressions.clear();
    CHECK(lids_of(without, kit.landmarks, lid_marks_on(lidded(0.6))) == LidsShut{0, 0});
    CHECK(move_lids(without, kit.mesh.positions, {1, 1}) == kit.mesh.positions);
}

TEST_CASE("Lids: their edges are steps around the eyeball, open, half shut, on a head that shares nothing") {
    const BaseKit& kit = *demo_kit();
    for (const double share : {0.0, 0.5}) {
        const Mesh mesh = solid_of(lidded(share));
        const auto found = find_lids(look_at_surface(mesh, {}), kit, kit.mesh.positions);
        for (const bool left : {false, true}) {
            REQUIRE(found[left]);
            CHECK(found[left]->shut == Approx(share).margin(0.21));
            CHECK_FALSE(found[left]->furrow);
        }
    }
    // a base whose lids are not marked cannot say how open they are
    BaseKit unmarked = kit;
    std::erase_if(unmarked.landmarks, [](const auto& mark) { return mark.first.starts_with("palpebrale"); });
    const Mesh plain = solid_of(kit.mesh.positions);
    CHECK_FALSE(find_lids(look_at_surface(plain, {}), unmarked, kit.mesh.positions)[0]);
    // nothing to be told where there are no eyes
    Mesh ball = solid_of(kit.mesh.positions);
    for (Vec3& p : ball.positions) p.z() = std::min(p.z(), 60.0);
    const auto none = find_lids(look_at_surface(ball, {}), kit, kit.mesh.positions);
    CHECK_FALSE(none[0]);
    CHECK_FALSE(none[1]);
}

TEST_CASE("Lids: a fit brings them down first, and hands the shape out with open eyes or as it is") {
    const BaseKit& kit = *demo_kit();
    const Points half = lidded(0.6);
    const Mesh source = solid_of(half);
    FitInput input;
    input.kit = &kit, input.source = &source, input.unit = Unit::Millimetre;
    for (const auto& [name, place] : kit.landmarks) {
        if (places_part(name, FitPart::Head) && !name.starts_with("pupil"))
            input.landmarks.points[name] = place.at(half);
    }
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    REQUIRE(fit->pose);
    CHECK(jaw_of(kit, *fit->pose) == 0);
    CHECK(of_head(kit, *fit->pose));
    CHECK(fit->pose->lids[0] == Approx(0.6).margin(0.06));
    CHECK(fit->figures.flipped_faces == 0);
    const Points open = at_rest(kit, fit->positions, fit->pose);
    std::vector<double> fitted_off, open_off, way;
    for (const char* lid : {"lid_l", "lid_r"}) {
        for (const Index v : kit.region(lid)) {
            fitted_off.push_back((fit->positions[v] - half[v]).norm());
            open_off.push_back((open[v] - kit.mesh.positions[v]).norm());
            way.push_back((half[v] - kit.mesh.positions[v]).norm());
        }
    }
    INFO(median(fitted_off) << " " << median(open_off) << " " << quantile(way, 0.9));
    CHECK(median(fitted_off) < 0.3);
    CHECK(median(open_off) < 0.4);
    CHECK(at_rest(kit, fit->positions, fit->pose, false) == fit->positions);
    // told to be open, they stay as the kit has them
    input.lids = LidsShut{0, 0};
    const auto stays = run_fit(input, {});
    REQUIRE(stays);
    CHECK_FALSE(stays->pose);
}

TEST_CASE("Commissures: how deep a place lies in a slit, as a caliper's ball feels it") {
    // two blocks with a gap of 1 mm between them, their fronts at z = 0
    Mesh blocks;
    for (const double side : {-1.0, 1.0}) {
        const Index first = static_cast<Index>(blocks.positions.size());
        for (const Vec3& p : {Vec3(-20, 0.5, 0), Vec3(20, 0.5, 0), Vec3(20, 20, 0), Vec3(-20, 20, 0),
                              Vec3(-20, 0.5, -15), Vec3(20, 0.5, -15)})
            blocks.positions.emplace_back(p.x(), side * p.y(), p.z());
        for (Triangle t : {Triangle{0, 1, 2}, Triangle{0, 2, 3}, Triangle{4, 5, 1}, Triangle{4, 1, 0}}) {
            if (side < 0) std::swap(t[1], t[2]);
            for (const Index v : t) blocks.corner_vertex.push_back(first + v);
            blocks.face_start.push_back(static_cast<Index>(blocks.corner_vertex.size()));
        }
    }
    const std::vector<Triangle> triangles = triangulate(blocks).triangles;
    const SurfaceQuery surface(blocks.positions, triangles);
    // a ball of 1 mm rests on the edges, its front 0.13 mm below them
    CHECK(slit_depth(surface, Vec3(0, 0.5, -5)) == Approx(4.9).margin(0.15));
    CHECK(slit_depth(surface, Vec3(0, 8, 0)) == Approx(0).margin(1e-6));
    CHECK(slit_depth(surface, Vec3(0, 0.5, -14)) == 0);  // deeper than any lid or lip
}
