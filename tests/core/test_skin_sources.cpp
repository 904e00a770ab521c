// Where a skin comes from: what is no skin, tone, halves, the other side, photographs.
#include <catch2/catch.hpp>

#include "core/skin/photo_colours.h"
#include "core/skin/skin_by_colour.h"
#include "core/skin/tone.h"
#include "tests/core/skin_support.h"
#include "tests/support/sitters.h"

using namespace veld;

TEST_CASE("Skin: hair over the brow is no skin by its colour, brows within the face stay") {
    const BakeSurface& base = paint_surface().surface();
    const auto in = [&](Index v, const char* name) { return base.region_names[base.region[v]] == name; };
    const Vec3 nose = demo_kit()->landmarks.at("pronasale").at(demo_kit()->mesh.positions);
    const auto brow = [&](Index v) {
        const Vec3 d = base.positions[v] - nose;
        return in(v, "face") && d.y() > 48 && d.y() < 58 && std::abs(d.x()) > 15 && std::abs(d.x()) < 45;
    };
    const auto hair = [&](Index v) {
        const Vec3 d = base.positions[v] - nose;
        return in(v, "skull") && (d.y() > 90 || d.z() < -90);
    };
    const auto colours = logs_of(base, [&](Index v) {
        const double ripple = 1 + 0.1 * std::sin(0.9 * base.positions[v].x());
        if (hair(v) || brow(v)) return Vec3(Vec3(0.03, 0.022, 0.016) * ripple);
        if (in(v, "lips")) return Vec3(0.35, 0.12, 0.11);
        return Vec3(Vec3(0.5, 0.3, 0.22) * ripple);
    });
    for (const bool keep : {true, false}) {
        const SkinByColour told = not_skin_by_colour(base, colours, keep);
        double skull = 0, skulls = 0, brows = 0, count = 0, rest = 0;
        for (Index v = 0; v < told.other.size(); ++v) {
            if (hair(v)) skull += told.other[v], ++skulls;
            if (brow(v)) brows += told.other[v], ++count;
            if (in(v, "lips") || (in(v, "face") && base.positions[v].y() < nose.y())) rest += told.other[v];
        }
        REQUIRE(count > 5);
        CHECK(skull > 0.95 * skulls);
        CHECK(rest == 0);
        CHECK((keep ? brows == 0 : brows > 0.5 * count));
    }
    // a scan that shows no face says nothing
    std::vector<std::optional<Vec3>> nothing(base.positions.size());
    CHECK(not_skin_by_colour(base, nothing, true).share == 0);
}

TEST_CASE("Skin: what no camera shows is known: insides, and lids and lips behind their edges") {
    const BakeSurface& base = paint_surface().surface();
    const std::vector<std::uint8_t> never = never_seen(base);
    std::map<std::string, std::pair<double, double>> of;  // never seen, all
    for (Index t = 0; t < base.triangles.size(); ++t) {
        if (base.part[t] != 0) continue;
        for (const Index v : base.triangles[t]) {
            auto& [hidden, all] = of[base.region_names[base.region[v]]];
            hidden += never[v], ++all;
        }
    }
    for (const char* inside : {"socket_l", "socket_r", "mouth_inner", "nostril_inside"})
        CHECK(of[inside].first == of[inside].second);
    for (const char* skin : {"face", "neck", "skull", "ear_l", "ear_r"}) CHECK(of[skin].first == 0);
    for (const char* edge : {"lid_l", "lid_r", "lips"}) {
        CHECK(of[edge].first > 0.15 * of[edge].second);
        CHECK(of[edge].first < 0.75 * of[edge].second);
    }
    CHECK(of["lid_l"].first == Approx(of["lid_r"].first).epsilon(0.1));
    for (const Index v : base.lid_edges) CHECK(never[v]);
    // a subdivided base knows no edges: only its insides
    const BakeSurface fine = *bake_surface(*demo_kit(), demo_kit()->mesh.positions, 1);
    CHECK(fine.lid_edges.empty());
    const std::vector<std::uint8_t> insides = never_seen(fine);
    CHECK(std::count(insides.begin(), insides.end(), 1) > 0);
}

TEST_CASE("Skin: a colour is the more in doubt the farther it is off, up to where it is none") {
    SkinCluster cluster;
    cluster.inverse = Mat3::Identity() * 100, cluster.far = 2.7;
    double before = 0;
    for (double off = 0; off < 0.5; off += 0.02) {
        const double doubt = cluster.doubt(Vec3::Constant(off));  // in lightness alone: 10 deviations a unit
        CHECK(doubt >= before);
        before = doubt;
    }
    CHECK(cluster.doubt(Vec3::Zero()) == 0);
    CHECK(cluster.doubt(Vec3::Constant(0.27)) == Approx(1));
    CHECK(cluster.doubt(Vec3::Constant(1)) == 1);
}

TEST_CASE("Skin: a tone that differs by region is found, and goes over without a step") {
    const BakeSurface& base = paint_surface().surface();
    const auto red = [&](Index v) { return base.region_names[base.region[v]] == "lips"; };
    const auto own = logs_of(
        base, [&](Index v) { return Vec3(Vec3(0.4, 0.25, 0.2) * (1 + 0.2 * std::sin(0.5 * base.positions[v].y()))); });
    auto other = own;
    for (Index v = 0; v < other.size(); ++v) *other[v] += red(v) ? Vec3(0.5, 0, 0) : Vec3(0.2, 0.1, 0);
    const auto field = tone_field(base, other, own);
    REQUIRE(field);
    for (const RegionTone& r : field->regions)
        CHECK((r.off - (r.region == "lips" ? Vec3(0.5, 0, 0) : Vec3(0.2, 0.1, 0))).norm() < 0.02);
    double step = 0;
    for (const Triangle& t : base.triangles) {
        for (std::size_t k = 0; k < 3; ++k)
            step = std::max(step, (field->log[t[k]] - field->log[t[(k + 1) % 3]]).norm());
    }
    CHECK(step < 0.08);
    // all of one tone where nothing is known
    const auto blank = tone_field(base, std::vector<std::optional<Vec3>>(own.size()), own);
    REQUIRE(blank);
    CHECK(blank->log[0].norm() == 0);
}

TEST_CASE("Skin: the better half is told by what is seen, lit and sharp there, and taken for both") {
    HalfFigures f;
    f.seen[0] = 0.9, f.seen[1] = 0.95;
    CHECK(better_half(f) == SkinHalf::Both);
    f.detail[0] = 0.02, f.detail[1] = 0.05;
    CHECK(better_half(f) == SkinHalf::Right);
    f.light[0] = 1, f.light[1] = 0.4;
    CHECK(better_half(f) == SkinHalf::Left);
    f.seen[0] = 0.5;
    CHECK(better_half(f) == SkinHalf::Right);
    ProjectState s = dressed_project();
    auto layer = *layer_of_fit(s, s.subjects[0].id);
    layer.recipe = {0, 0, false, true, false, SkinHalf::Left};
    const auto baked = bake_layer(*layer_baking(s, layer, 256), {});
    REQUIRE(baked);
    CHECK(baked->report.seen > 0.4);
    CHECK(baked->report.seen < 0.6);
    CHECK(baked->report.mirrored > 0.4);
    REQUIRE(baked->report.halves.size() > 3);
    // the right cheek shows what the left one does
    const PaintSurface& surface = paint_surface();
    const LayeredSkin skin{.name = "x", .size = 256, .layers = {baked->layer}};
    const Vec3 nose = demo_kit()->landmarks.at("pronasale").at(demo_kit()->mesh.positions);
    for (const double y : {-10.0, 5.0, 20.0}) {
        const SkinSpot right = surface.closest(nose + Vec3(-38, y, -28), Vec3(-0.5, 0, 1).normalized());
        const SkinSpot left = surface.other_side(right);
        REQUIRE(left.triangle != kNone);
        const UvTile& tile = surface.tile_of(right.triangle);
        const auto pixels = composed_tile(s.kit->mesh, surface.surface(), tile, skin);
        REQUIRE(pixels);
        const auto at = [&](const SkinSpot& place) {
            const Vec2 in = surface.in_tile(place);
            const TexelBytes c = texel_of(*pixels, static_cast<int>(in.x() * 256), static_cast<int>(in.y() * 256));
            return Vec3(Vec3(c[0], c[1], c[2]) / 255);
        };
        CHECK(colour_difference(at(right), at(left)) < 3);
    }
}

TEST_CASE("Skin: what a half of a scan lacks comes from the other side, in one tone with the base") {
    ProjectState s = dressed_project(0.8);
    VertexMask right(s.kit->mesh.positions.size(), 0);
    for (std::size_t v = 0; v < right.size(); ++v) right[v] = s.kit->mesh.positions[v].x() < -3;
    s.subjects[0].sources[0].ignored = std::make_shared<const VertexMask>(right);
    auto layer = *layer_of_fit(s, s.subjects[0].id);
    layer.recipe = {0, 0, false, true, true};
    auto baked = bake_layer(*layer_baking(s, layer, 128), {});
    REQUIRE(baked);
    CHECK(baked->report.mirrored > 0.3);
    CHECK(baked->report.seen + baked->report.mirrored > 0.95);
    layer.recipe.fill_mirrored = false;
    auto filled = bake_layer(*layer_baking(s, layer, 128), {});
    REQUIRE(filled);
    CHECK(filled->report.mirrored == 0);
    CHECK(filled->report.missed > 0.3);
    // to the base's tone: what was 0.8 as light is as light as the base again
    layer.recipe.tone = 1;
    auto toned = bake_layer(*layer_baking(s, layer, 128), {});
    REQUIRE(toned);
    CHECK(toned->report.tones.size() > 4);
    bool stop = false;
    CHECK(bake_layer(*layer_baking(s, layer, 128), {{}, [&] { return std::exchange(stop, true); }, {}}).error().code ==
          ErrorCode::Cancelled);
}

TEST_CASE("Skin: photographs of one person in other lights come to one tone") {
    const Sitting& person = sitter(3);
    const BakeSurface base = *bake_surface(*demo_kit(), person.subject.truth_mm);
    std::vector<Pixels> tinted;
    for (const SittingPhoto& p : person.photos) tinted.push_back(p.photo.pixels);
    for (std::size_t i = 0; i < tinted[1].rgba.size(); ++i) {
        if (i % 4 < 3) tinted[1].rgba[i] = static_cast<std::uint8_t>(tinted[1].rgba[i] * (i % 4 == 2 ? 0.6 : 0.8));
    }
    std::vector<SkinPhoto> photos;
    for (std::size_t k = 0; k < tinted.size(); ++k) {
        photos.push_back({&tinted[k], person.photos[k].camera, {}});
        for (const auto& [name, pixel] : person.photos[k].marks.points) photos.back().on_skin.push_back(pixel);
    }
    const auto colours = PhotoColours::make(*demo_kit(), base, photos, 0, 0, {});
    REQUIRE(colours);
    // against the pictures as they were: what the tint changes goes over from place to place without a step
    std::vector<SkinPhoto> plain_photos = photos;
    for (std::size_t k = 0; k < plain_photos.size(); ++k) plain_photos[k].pixels = &person.photos[k].photo.pixels;
    const auto before = PhotoColours::make(*demo_kit(), base, plain_photos, 0, 0, {});
    REQUIRE(before);
    const Vec3 middle = Vec3::Constant(1.0 / 3);
    const auto changed = [&](Index t) -> std::optional<Vec3> {
        const auto now = colours->at(t, middle), then = before->at(t, middle);
        if (!now || !then) return {};
        return Vec3((now->array() + 0.01).log() - (then->array() + 0.01).log());
    };
    std::vector<double> steps;
    std::size_t seen = 0, all = 0;
    for (Index t = 0; t < base.triangles.size(); ++t) {
        if (base.part[t] != 0 || base.region_names[base.region[base.triangles[t][0]]] != "face") continue;
        ++all;
        const auto here = changed(t);
        if (!here) continue;
        ++seen;
        for (const Index mate : base.mate[t]) {
            const auto there = mate == kNone ? std::nullopt : changed(mate / 3);
            if (there) steps.push_back((*here - *there).norm());
        }
    }
    CHECK(seen > 0.7 * static_cast<double>(all));
    std::sort(steps.begin(), steps.end());
    REQUIRE(steps.size() > 500);
    // the tint itself is 0.6; what is left is detail that does not lie on the same pixel in both
    CHECK(steps[steps.size() / 2] < 0.02);
    CHECK(steps[steps.size() * 95 / 100] < 0.085);
    REQUIRE_FALSE(PhotoColours::make(*demo_kit(), base, {}, 0, 0, {}));
    // relief cannot be baked of photographs
    BakeSource source;
    source.photos = &*colours;
    BakeSettings settings;
    settings.size = 64;
    const auto refused =
        bake(base, demo_kit()->mesh, source, settings, [](BakedTile&&) { return Status(Done{}); }, {});
    REQUIRE_FALSE(refused);
    CHECK(refused.error().code == ErrorCode::BadInput);
    settings.maps = {SkinMap::Colour};
    const auto baked = bake(base, demo_kit()->mesh, source, settings, [](BakedTile&&) { return Status(Done{}); }, {});
    REQUIRE(baked);
    CHECK(baked->seen > 0.05);
}
