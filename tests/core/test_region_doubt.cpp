// What speaks against a region of a fit, beside distance.
#include <catch2/catch.hpp>

#include "core/fit/fit.h"
#include "core/fit/region_doubt.h"
#include "core/kit/kit_surface.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

// The kit's own skin as a scan; changed by `form`, and without the faces of `missing`.
Mesh skin_as_scan(const Points& form, const std::vector<std::string>& missing = {}) {
    const BaseKit& kit = *demo_kit();
    VertexMask gone(form.size(), 0);
    for (const std::string& region : missing) {
        for (const Index v : kit.region(region)) gone[v] = 1;
    }
    Mesh out;
    out.positions = form;
    for (const Triangle& t : skin_triangles(kit)) {
        if (gone[t[0]] || gone[t[1]] || gone[t[2]]) continue;
        out.corner_vertex.insert(out.corner_vertex.end(), t.begin(), t.end());
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

// A cap: the upper skull stands out by so much.
Points with_cap(double mm) {
    const BaseKit& kit = *demo_kit();
    Points out = kit.mesh.positions;
    const double brow = kit.landmarks.at("glabella").at(out).y() + 25;
    for (const Index v : kit.region("skull")) {
        if (out[v].y() > brow) out[v] += mm * kit_normals(kit)[v];
    }
    return out;
}

Result<FitResult> fit_to(const Mesh& source, const VertexMask* not_skin = nullptr) {
    const BaseKit& kit = *demo_kit();
    FitInput input;
    input.kit = &kit, input.source = &source, input.unit = Unit::Millimetre, input.not_skin = not_skin;
    for (const auto& [name, place] : kit.landmarks) {
        if (in_point_set(name, PointSet::Face)) input.landmarks.points[name] = place.at(kit.mesh.positions);
    }
    return run_fit(input, {});
}

}  // namespace

TEST_CASE("Doubt: a fit that is right in every region is said to be fine") {
    const Mesh source = skin_as_scan(demo_kit()->mesh.positions);
    const auto fit = fit_to(source);
    REQUIRE(fit);
    REQUIRE(fit->figures.doubts.size() >= 7);
    for (const auto& [region, doubt] : fit->figures.doubts) {
        INFO(region << " " << doubt.wrong);
        CHECK(doubt.wrong < kLooksWrong);
        CHECK_FALSE(is_guessed(doubt.signs));
        CHECK(doubt.signs.cuts == 0);
    }
    REQUIRE(fit->guessed.size() == fit->positions.size());
    std::size_t guessed = 0;
    for (const Index v : demo_kit()->region("face")) guessed += !std::isnan(fit->guessed[v]);
    CHECK(guessed < demo_kit()->region("face").size() / 20);
}

TEST_CASE("Doubt: what was not seen is said to be guessed, with how far it may be off") {
    const Mesh source = skin_as_scan(demo_kit()->mesh.positions, {"ear_l", "skull"});
    const auto fit = fit_to(source);
    REQUIRE(fit);
    const auto& doubts = fit->figures.doubts;
    CHECK(is_guessed(doubts.at("ear_l").signs));
    CHECK(is_guessed(doubts.at("skull").signs));
    CHECK(doubts.at("ear_l").why == DoubtReason::Guessed);
    CHECK_FALSE(is_guessed(doubts.at("ear_r").signs));
    CHECK_FALSE(is_guessed(doubts.at("face").signs));
    for (const Index v : demo_kit()->region("ear_l")) {
        if (!std::isnan(fit->guessed[v])) CHECK(fit->guessed[v] > 0.3f);
    }
}

TEST_CASE("Doubt: a cap that is copied onto the skull is said, though the fit lies on it") {
    const Mesh plain = skin_as_scan(demo_kit()->mesh.positions), cap = skin_as_scan(with_cap(9));
    const auto good = fit_to(plain), bad = fit_to(cap);
    REQUIRE((good && bad));
    const RegionDoubt &was = good->figures.doubts.at("skull"), &is = bad->figures.doubts.at("skull");
    INFO(was.wrong << " " << is.wrong << " " << is.signs.unlikely);
    CHECK(is.signs.unlikely > 2 * was.signs.unlikely);
    CHECK((is.wrong >= kLooksWrong || is_guessed(is.signs)));
    // and when detection took it for no skin and somebody matched it all the same, that is the reason
    VertexMask mask(cap.positions.size(), 0);
    for (const Index v : demo_kit()->region("skull")) mask[v] = 1;
    const auto told = fit_to(cap, &mask);
    REQUIRE(told);
    const RegionDoubt& skull = told->figures.doubts.at("skull");
    CHECK(skull.signs.not_skin > 0.5);
    CHECK(skull.wrong >= kLooksWrong);
    CHECK(skull.why == DoubtReason::NotSkin);
}

TEST_CASE("Doubt: each sign makes it more, none less") {
    const RegionSigns none;
    for (const std::string region : {"face", "lips", "lid_l", "ear_r", "skull", "neck"}) {
        for (double RegionSigns::*sign :
             {&RegionSigns::unlikely, &RegionSigns::not_skin, &RegionSigns::marks, &RegionSigns::apart,
              &RegionSigns::surface, &RegionSigns::bent, &RegionSigns::cuts, &RegionSigns::guessed}) {
            RegionSigns more = none;
            more.*sign = 1;
            CHECK(looks_wrong(region, more) >= looks_wrong(region, none));
        }
    }
    RegionSigns folded;
    folded.cuts = 12, folded.unlikely = 3, folded.surface = 4, folded.bent = 1.5;
    CHECK(looks_wrong("lips", folded) > kLooksWrong);
    CHECK(region_doubt("lips", folded).why != DoubtReason::None);
}
