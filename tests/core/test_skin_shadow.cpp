#include <catch2/catch.hpp>

#include <cmath>

#include "core/io/map_image.h"
#include "core/linalg/statistics.h"
#include "core/skin/bake.h"
#include "core/skin/lamp.h"
#include "core/skin/shine.h"
#include "demo/standins/lit_scan.h"
#include "demo/standins/skin_truth.h"
#include "tests/core/skin_support.h"

using namespace veld;

namespace {

struct Baked {
    MapImage colour;
    std::vector<std::uint8_t> found;
    BakeReport report;
};

Baked baked(const BakeSurface& base, const Mesh& scan, double light_out, double shine_out) {
    const Triangulation fans = triangulate(scan);
    const SourceSurface surface = prepare_source(scan, {}, nullptr, 0, true);
    BakeSettings settings;
    settings.size = 256, settings.samples = 1, settings.maps = {SkinMap::Colour}, settings.tiles = {"1001"};
    settings.light_out = light_out, settings.shine_out = shine_out;
    Baked out;
    auto report = bake(base, demo_kit()->mesh, {&surface, &scan, &fans, 1}, settings,
                       [&](BakedTile&& tile) -> Status {
                           out.colour = std::move(tile.maps.begin()->second), out.found = std::move(tile.found);
                           return Done{};
                       },
                       {});
    REQUIRE(report);
    out.report = std::move(*report);
    return out;
}

// CIEDE2000 in the face's tone, of the face's triangles.
struct Off {
    double half, most;  // 50 and 90 of 100 are less
};
Off off(const BakeSurface& base, const Baked& what, const Baked& truth) {
    const UvTile& tile =
        *std::find_if(base.tiles.begin(), base.tiles.end(), [](const UvTile& t) { return t.name == "1001"; });
    const auto linear = [](const Vec3& c) {
        return Vec3(srgb_to_linear(c[0]), srgb_to_linear(c[1]), srgb_to_linear(c[2]));
    };
    std::vector<std::pair<Vec3, Vec3>> pairs;
    std::vector<double> gain[3];
    for (const Index t : tile.triangles) {
        if (base.part[t] != 0 || base.region_names[base.region[base.triangles[t][0]]] != "face") continue;
        const Vec2 uv = (base.uv[t][0] + base.uv[t][1] + base.uv[t][2]) / 3;
        pairs.emplace_back(linear(map_at(what.colour, tile, uv)), linear(map_at(truth.colour, tile, uv)));
        for (int k = 0; k < 3; ++k) gain[k].push_back(pairs.back().second[k] / std::max(1e-3, pairs.back().first[k]));
    }
    const Vec3 tone(median(gain[0]), median(gain[1]), median(gain[2]));
    std::vector<double> values;
    for (const auto& [a, b] : pairs) {
        Vec3 ca, cb;
        for (int k = 0; k < 3; ++k)
            ca[k] = linear_to_srgb(std::min(1.0, a[k] * tone[k])), cb[k] = linear_to_srgb(b[k]);
        values.push_back(colour_difference(ca, cb));
    }
    return {median(values), quantile(values, 0.9)};
}

struct Lit {
    BakeSurface base;
    Mesh plain;
    Baked truth;
};
// The base as a scan of made-up skin in its own colours.
const Lit& plain_scan() {
    static const Lit out = [] {
        Lit lit{*bake_surface(*demo_kit(), demo_kit()->mesh.positions), demo_kit()->mesh, {}};
        lit.plain.colours.clear();
        for (const Vec3& p : lit.plain.positions) {
            const Vec3 c = known_colour(p);
            const auto byte = [](double v) { return static_cast<std::uint8_t>(std::lround(255 * v)); };
            lit.plain.colours.push_back({byte(c[0]), byte(c[1]), byte(c[2]), 255});
        }
        lit.plain.materials.clear(), lit.plain.images.clear();
        lit.plain.face_material.assign(lit.plain.face_material.size(), kNone);
        lit.truth = baked(lit.base, lit.plain, 0, 0);
        return lit;
    }();
    return out;
}

}  // namespace

TEST_CASE("Skin shadows: the lamp that casts them is found, and they go out with the light") {
    const Lit& lit = plain_scan();
    LitBy by;
    by.towards = Vec3(0.5, 0.8, 0.6), by.strength = 2;
    const Mesh scan = lit_scan(lit.plain, by);
    const Baked raw = baked(lit.base, scan, 0, 0), clean = baked(lit.base, scan, 1, 0);
    REQUIRE(clean.report.lamp);
    CHECK(clean.report.lamp->dot(by.towards.normalized()) > std::cos(0.12));
    CHECK(clean.report.shadow > 0.01);
    CHECK(clean.report.shadow < 0.4);
    const auto before = off(lit.base, raw, lit.truth), after = off(lit.base, clean, lit.truth);
    CHECK(after.half < 0.3 * before.half);
    CHECK(after.most < 0.4 * before.most);
    CHECK_FALSE(raw.report.lamp);
}

TEST_CASE("Skin shadows: one of something that is in no scan goes out by its colours") {
    const Lit& lit = plain_scan();
    LitBy by;
    by.towards = Vec3(0.5, 0.8, 0.6), by.strength = 2;
    by.plate =
        demo_kit()->landmarks.at("sellion").at(lit.base.positions) + 60 * by.towards.normalized() + Vec3(35, -35, 0);
    by.plate_radius = 22;
    const Mesh scan = lit_scan(lit.plain, by);
    const Baked raw = baked(lit.base, scan, 0, 0), clean = baked(lit.base, scan, 1, 0);
    REQUIRE(clean.report.lamp);
    const auto before = off(lit.base, raw, lit.truth), after = off(lit.base, clean, lit.truth);
    CHECK(after.half < 0.4 * before.half);
    CHECK(after.most < 0.6 * before.most);
}

TEST_CASE("Skin shadows: light from everywhere has no lamp, and nothing shines in it") {
    const Lit& lit = plain_scan();
    LitBy by;
    by.strength = 0;
    const Baked clean = baked(lit.base, lit_scan(lit.plain, by), 1, 1);
    CHECK_FALSE(clean.report.lamp);
    CHECK(clean.report.shadow == 0);
    CHECK(clean.report.shine < 0.01);
}

TEST_CASE("Skin highlights: white added to a skin is found and goes out, by as much as is wanted") {
    const BakeSurface& base = plain_scan().base;
    const Vec3 nose = demo_kit()->landmarks.at("pronasale").at(base.positions),
               brow = demo_kit()->landmarks.at("sellion").at(base.positions) + Vec3(0, 30, 0);
    const auto shown = [&](Index v, double white) {
        const Vec3& p = base.positions[v];
        const double near = std::min((p - nose).norm() / 9, (p - brow).norm() / 14),
                     patch = 1 + 0.08 * std::sin(0.3 * p.x()) * std::sin(0.25 * p.y());
        return Vec3(patch * Vec3(0.42, 0.24, 0.17) + Vec3::Constant(white * std::exp(-near * near)));
    };
    const auto logs = logs_of(base, [&](Index v) { return shown(v, 0.3); });
    const auto shine = Shine::find(base, logs, {});
    REQUIRE(shine);
    REQUIRE(*shine);
    CHECK((*shine)->share() > 0.002);
    CHECK((*shine)->share() < 0.2);
    std::vector<double> before, after, half;
    for (Index t = 0; t < base.triangles.size(); ++t) {
        const Index v = base.triangles[t][0];
        const Vec3 lit = shown(v, 0.3), skin = shown(v, 0);
        const Vec3 corner = Vec3::UnitX(), clean = (*shine)->without(lit, t, corner, 1);
        const auto off = [&](const Vec3& c) { return (c - skin).norm(); };
        CHECK((*shine)->without(lit, t, corner, 0).isApprox(lit));
        if (off(lit) < 1e-3) CHECK(off(clean) < 0.03);  // elsewhere skin stays as it is
        if (off(lit) < 0.1 || base.part[t] != 0) continue;
        before.push_back(off(lit)), after.push_back(off(clean)),
            half.push_back(off((*shine)->without(lit, t, corner, 0.5)));
    }
    REQUIRE(before.size() > 50);
    CHECK(median(after) < 0.25 * median(before));
    CHECK(median(half) < 0.65 * median(before));
    CHECK(median(half) > median(after));
    // the same skin without a highlight
    const auto none = Shine::find(base, logs_of(base, [&](Index v) { return shown(v, 0); }), {});
    REQUIRE(none);
    CHECK((!*none || (*none)->share() < 0.01));
}

TEST_CASE("Skin shadows: a lamp is looked for in a few places without harm") {
    std::vector<LitPlace> few(30), many(3000);
    const auto sees = [](std::size_t, const Vec3&) { return true; };
    CHECK_FALSE(find_lamp(few, sees, {}));
    CHECK_FALSE(find_lamp(many, sees, {}));  // black, all facing one way
}
