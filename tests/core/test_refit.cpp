// Fits that go on from a fit, regions that are kept or held back, symmetry, landmarks alone.
#include <catch2/catch.hpp>

#include <cmath>

#include "core/fit/fit.h"
#include "core/fit/presets.h"
#include "core/fit/problem.h"
#include "core/fit/settings_text.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/sort_in_rows.h"
#include "core/spatial/self_intersections.h"
#include "demo/standins/made_up_person.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

const SyntheticSubject& subject() {
    static const SyntheticSubject made = [] {
        SubjectOptions options;
        options.seed = 4, options.landmark_count = 1000;
        return make_subject(*demo_kit(), options);
    }();
    return made;
}

FitInput made_input() { return {demo_kit().get(), {}, &subject().scan, subject().landmarks, {}, {}}; }

const FitResult& first_fit() {
    static const FitResult fit = std::move(*run_fit(made_input(), {}));
    return fit;
}

FitStart start_of(const FitResult& fit, const LandmarkSet& landmarks) {
    return {&fit.positions, fit.placement, fit.pose, fit.settings, landmarks, nullptr, fit.cache};
}

double most_moved(const Points& a, const Points& b, const std::vector<Index>& vertices) {
    double out = 0;
    for (const Index v : vertices) out = std::max(out, (a[v] - b[v]).norm());
    return out;
}

}  // namespace

TEST_CASE("Refit: a moved landmark is taken in where it is, the rest stays to the last bit") {
    FitInput input = made_input();
    const std::string name = "cheilion_l";
    input.landmarks.points[name] += subject().scan_from_mm.scale * Vec3(0, 3, 0);
    double solved = 0;
    const auto again = refit(input, start_of(first_fit(), subject().landmarks), {}, &solved);
    REQUIRE(again);
    CHECK(solved > 0.01);
    CHECK(solved < 0.4);
    const BaseKit& kit = *demo_kit();
    CHECK(most_moved(first_fit().positions, again->positions, kit.region("skull")) == 0);
    CHECK(most_moved(first_fit().positions, again->positions, kit.region("ear_r")) == 0);
    // the corner follows the point about as a whole new fit would
    const auto whole = run_fit(input, {});
    REQUIRE(whole);
    const SurfacePoint place = kit.landmarks.at(name);
    const Vec3 before = place.at(first_fit().positions), now = place.at(again->positions),
               fresh = place.at(whole->positions);
    CHECK((now - before).norm() > 0.3);
    CHECK((now - fresh).norm() < 0.6 * (before - fresh).norm() + 0.25);
    CHECK(again->figures.flipped_faces == 0);
    CHECK(again->figures.surface.median < 1.3 * first_fit().figures.surface.median + 0.002);
}

TEST_CASE("Refit: ignoring an area frees the surface there and only there") {
    FitInput input = made_input();
    const BaseKit& kit = *demo_kit();
    // everything within 20 mm of the nose tip
    const Similarity to_kit = first_fit().placement.source_to_kit;
    const Vec3 tip = kit.landmarks.at("pronasale").at(first_fit().positions);
    VertexMask ignored(subject().scan.positions.size(), 0);
    for (std::size_t v = 0; v < ignored.size(); ++v)
        ignored[v] = (to_kit(subject().scan.positions[v]) - tip).norm() < 20;
    input.ignored = &ignored;
    double solved = 0;
    const auto again = refit(input, start_of(first_fit(), subject().landmarks), {}, &solved);
    REQUIRE(again);
    CHECK(solved < 0.5);
    CHECK(most_moved(first_fit().positions, again->positions, kit.region("skull")) == 0);
    int no_longer = 0;
    for (const Index v : kit.region("face"))
        no_longer += std::isnan(again->distances[v]) && !std::isnan(first_fit().distances[v]);
    CHECK(no_longer > 20);
}

TEST_CASE("Refit: a setting of the whole is taken in everywhere, another part is a new fit", "[accuracy]") {
    FitInput input = made_input();
    input.settings.smooth_end_mm = 6;
    double solved = 0;
    const auto smoother = refit(input, start_of(first_fit(), subject().landmarks), {}, &solved);
    REQUIRE(smoother);
    CHECK(solved == 1);
    CHECK(smoother->settings.smooth_end_mm == 6);
    CHECK(smoother->figures.surface.median > first_fit().figures.surface.median);
    CHECK(smoother->figures.surface.median < 0.5);
    input.settings.part = FitPart::Body;
    const auto other = refit(input, start_of(first_fit(), subject().landmarks), {});
    CHECK((!other || other->settings.part == FitPart::Body));
}

TEST_CASE("Refit: cancelled it says so, and a start that does not fit the kit is a new fit") {
    Progress stop;
    stop.cancelled = [] { return true; };
    const auto cancelled = refit(made_input(), start_of(first_fit(), subject().landmarks), stop);
    REQUIRE_FALSE(cancelled);
    CHECK(cancelled.error().code == ErrorCode::Cancelled);
    FitStart broken = start_of(first_fit(), subject().landmarks);
    const Points few(10, Vec3::Zero());
    broken.positions = &few;
    double solved = 0;
    FitInput input = made_input();
    input.settings.levels = 4;
    const auto fresh = refit(input, broken, {}, &solved);
    REQUIRE(fresh);
    CHECK(solved == 1);
}

TEST_CASE("Regions: kept stays on the base to the last bit, half kept in between, around it nothing tears",
          "[accuracy]") {
    const BaseKit& kit = *demo_kit();
    FitInput input = made_input();
    input.settings.regions["ear_l"].keep = 1;
    input.settings.region_fade_mm = 12;
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    CHECK(most_moved(fit->positions, kit.mesh.positions, kit.region("ear_l")) == 0);
    CHECK(fit->figures.flipped_faces == 0);
    const double free = most_moved(first_fit().positions, kit.mesh.positions, kit.region("ear_l"));
    input.settings.regions["ear_l"].keep = 0.5;
    const auto half = run_fit(input, {});
    REQUIRE(half);
    const double between = most_moved(half->positions, kit.mesh.positions, kit.region("ear_l"));
    CHECK(between > 0);
    CHECK(between < free);
}

TEST_CASE("Regions: painted weights act like the kit's, by their weight") {
    const BaseKit& kit = *demo_kit();
    FitInput input = made_input();
    const VertexIndices& ear = kit.region("ear_r");
    SoftWeights painted;
    painted.vertex = ear, painted.weight.assign(ear.size(), 1.0f);
    input.settings.own_regions["under the earphone"] = painted;
    input.settings.regions["under the earphone"] = {0, 1, 0, 0};
    input.settings.regions["nowhere"] = {0, 1, 0, 0};
    input.settings.levels = 6;  // which regions match does not depend on how finely
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    for (const Index v : ear) REQUIRE(std::isnan(fit->distances[v]));
    CHECK_FALSE(std::isnan(fit->distances[kit.region("face").front()]));
    CHECK(std::any_of(fit->notes.begin(), fit->notes.end(),
                      [](const std::string& n) { return n.find("'nowhere'") != std::string::npos; }));
    const std::vector<float> w = region_weights(kit, input.settings, "under the earphone");
    CHECK(w[ear.front()] == 1.0f);
    CHECK(soft_weights(w) == painted);
}

TEST_CASE("Symmetry: an amount brings both sides to their mean, and no more than asked", "[accuracy]") {
    const BaseKit& kit = *demo_kit();
    FitInput input = made_input();
    input.settings.symmetry = 1;
    const auto even = run_fit(input, {});
    REQUIRE(even);
    CHECK(even->figures.symmetry_mm < 1e-9);
    input.settings.symmetry = 0.5;
    const auto half = run_fit(input, {});
    REQUIRE(half);
    const double free = first_fit().figures.symmetry_mm;
    CHECK(free > 0.2);  // made subjects are crooked
    CHECK(half->figures.symmetry_mm == Approx(0.5 * free).epsilon(0.05));
    Points twice = even->positions;
    make_symmetric(kit, VertexMask(twice.size(), 1), {}, 1, twice);
    CHECK(most_moved(twice, even->positions, kit.part("skin")->vertices) < 1e-9);
}

TEST_CASE("Landmarks alone: a sensible head without any surface") {
    const BaseKit& kit = *demo_kit();
    FitInput input = made_input();
    input.settings.use_surface = false;
    input.source = nullptr;
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    CHECK(fit->figures.flipped_faces == 0);
    CHECK(fit->figures.self_intersections == 0);
    CHECK(fit->figures.surface.vertices == 0);
    Points mm = in_source_frame(*fit);
    const Similarity back = subject().scan_from_mm.inverse();
    for (Vec3& p : mm) p = back(p);
    CHECK(compare_with_truth(kit, subject(), mm).face_mean < 1.2);  // points are a millimetre off each
    input.settings.use_surface = true;
    const auto without = run_fit(input, {});
    REQUIRE_FALSE(without);
    CHECK(without.error().message.find("no source") != std::string::npos);
}

TEST_CASE("Fit: a fifth of the scan thrown about hardly shows") {
    SyntheticSubject rough = subject();
    std::uint32_t state = 7;
    const auto chance = [&] { return (state = state * 1664525u + 1013904223u) / 4294967296.0; };
    const Points normals = vertex_normals(rough.scan.positions, triangulate(rough.scan).triangles);
    for (std::size_t v = 0; v < normals.size(); ++v) {
        if (chance() < 0.2) rough.scan.positions[v] += rough.scan_from_mm.scale * 8 * (2 * chance() - 1) * normals[v];
    }
    FitInput input = made_input();
    input.source = &rough.scan;
    const auto fit = run_fit(input, {});
    REQUIRE(fit);
    Points mm = in_source_frame(*fit);
    const Similarity back = rough.scan_from_mm.inverse();
    for (Vec3& p : mm) p = back(p);
    const TruthFigures t = compare_with_truth(*demo_kit(), rough, mm);
    CHECK(t.face_surface_median < 0.08);
    CHECK(t.face_surface_p95 < 0.4);
    CHECK(fit->figures.flipped_faces == 0);
}

TEST_CASE("Presets: every one is a whole set of settings, unknown names are refused with the known ones") {
    for (const FitPreset& p : fit_presets()) {
        INFO(p.name);
        const auto read = parse_fit_settings(fit_settings_text(p.settings), "preset");
        REQUIRE(read);
        CHECK(*read == p.settings);
        CHECK(*fit_preset(p.name) == p.settings);
        for (const auto& [region, setting] : p.settings.regions) CHECK_FALSE(demo_kit()->region(region).empty());
    }
    const auto none = fit_preset("cat");
    REQUIRE_FALSE(none);
    CHECK(none.error().message.find("head-scan") != std::string::npos);
}

TEST_CASE("Fit settings: painted regions are read with all their faults named") {
    const auto error = [](const std::string& own) {
        const auto read = parse_fit_settings("{\"own_regions\":{\"brow\":" + own + "}}", "s.json");
        return read ? std::string() : read.error().message;
    };
    CHECK(error(R"({"vertices":[1,4],"weights":[1,0.5]})").empty());
    CHECK(error(R"({"vertices":[1,4],"weights":[1]})").find("same length") != std::string::npos);
    CHECK(error(R"({"vertices":[4,1],"weights":[1,1]})").find("rise") != std::string::npos);
    CHECK(error(R"({"vertices":[1,-4],"weights":[1,1]})").find("vertex number") != std::string::npos);
    CHECK(error(R"({"vertices":[1,4],"weights":[1,2]})").find("between 0 and 1") != std::string::npos);
    CHECK(error("3").find("brow") != std::string::npos);
    CHECK_FALSE(parse_fit_settings(R"({"regions":{"lips":{"keep":2}}})", "s.json"));
    CHECK_FALSE(parse_fit_settings(R"({"symmetry":1.5})", "s.json"));
}

TEST_CASE("Self cuts: looked for among some triangles only, the same are found") {
    const BaseKit& kit = *demo_kit();
    const auto triangles = skin_triangles(kit);
    Points bent = kit.mesh.positions;
    for (const Index v : kit.region("lips")) bent[v].y() *= 1 + 0.002 * std::sin(static_cast<double>(v));
    VertexMask marked(bent.size(), 0);
    for (const Index v : kit.region("lips")) marked[v] = 1;
    const TriangleIndices near = triangles_near(bent, triangles, marked);
    CHECK(near.size() < triangles.size() / 4);
    const auto touches = [&](const std::pair<Index, Index>& p) {
        bool any = false;
        for (const Index t : {p.first, p.second}) {
            for (const Index v : triangles[t]) any |= marked[v] != 0;
        }
        return any;
    };
    auto all = self_intersections(bent, triangles), some = self_intersections(bent, triangles, &near);
    std::erase_if(all, [&](const auto& p) { return !touches(p); });
    std::erase_if(some, [&](const auto& p) { return !touches(p); });
    CHECK(all.size() > 0);
    CHECK(all == some);
}

TEST_CASE("Rows are put in order as one sort would") {
    std::vector<std::pair<Index, Index>> list, sorted;
    std::uint32_t state = 3;
    for (int i = 0; i < 2000; ++i) {
        state = state * 1664525u + 1013904223u;
        list.emplace_back((state >> 8) % 37, (state >> 16) % 53);
    }
    sorted = list;
    std::sort(sorted.begin(), sorted.end());
    sort_in_rows(
        list, 37, [](const auto& e) { return e.first; },
        [](const auto& a, const auto& b) { return a.second < b.second; });
    CHECK(list == sorted);
}
