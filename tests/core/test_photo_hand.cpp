// Heads from photographs: outlines, what hands set, blends, and all of it in a project.
#include <catch2/catch.hpp>

#include "tests/core/photos_support.h"

TEST_CASE("Outline: edges of a rendered head lie where its camera has them, hair and a drawn line") {
    const Sitting& s = sitter(1);
    const SittingPhoto& p = s.photos[0];
    const OutlineSurface surface = outline_surface(*demo_kit());
    const auto points = contour(surface, s.subject.truth_mm, p.camera);
    REQUIRE(points.size() > 80);
    const Vec3 middle = demo_kit()->landmarks.at("sellion").at(s.subject.truth_mm);
    const EdgePicture picture = edge_picture(p.photo.pixels, p.camera.pixels_per_mm(middle));
    std::vector<Vec2> skin;
    for (const auto& [name, at] : p.true_marks.points) skin.push_back(at);
    const auto sights = outline_sights(points, picture, skin_tone(picture, skin), p.camera, s.subject.truth_mm, 8);
    CHECK(sights.size() > 40);
    std::vector<double> off;
    for (const Sight& e : sights)
        off.push_back(std::abs(e.across->dot(e.pixel - p.camera.project(e.place.at(s.subject.truth_mm)))) /
                      p.camera.pixels_per_mm(middle));
    CHECK(median(off) < 1.0);
    // a line drawn 3 mm outside of the contour pulls by 3 mm
    std::vector<Vec2> line;
    for (int i = 0; i < 60; ++i) line.push_back(p.camera.centre + 10000 * Vec2(std::cos(0.1 * i), std::sin(0.1 * i)));
    CHECK(drawn_outline_sights(points, line, p.camera, s.subject.truth_mm, 10).empty());
    const ContourPoint& c = points.front();
    const Vec2 along(-c.outward.y(), c.outward.x()), at = c.pixel + 3 * p.camera.pixels_per_mm(middle) * c.outward;
    const auto drawn = drawn_outline_sights({c}, {at - 50 * along, at + 50 * along}, p.camera, s.subject.truth_mm, 10);
    REQUIRE(drawn.size() == 1);
    CHECK((drawn[0].pixel - at).norm() < 1e-6);
}

TEST_CASE("By hand: a slider moves its region by what it says, a kept photograph does not notice") {
    const BaseKit& kit = *demo_kit();
    const BaseRegions regions = face_regions(kit);
    const HandSliders sliders(kit, smooth_space(), regions);
    CHECK(std::find(sliders.regions().begin(), sliders.regions().end(), "nose") != sliders.regions().end());
    HandShape hand;
    hand.settings.push_back({"nose", HandMove::Forward, 4});
    std::vector<std::optional<PhotoCamera>> cameras;
    for (const PhotoFigures& f : three_photos().photos) cameras.push_back(f.camera);
    const Points& shape = three_photos().positions;
    const Points delta = sliders.delta(hand, shape, cameras);
    const Index tip = kit.landmarks.at("pronasale").vertices[0], ear = kit.landmarks.at("tragion_l").vertices[0];
    CHECK(delta[tip].z() > 2);
    CHECK(delta[tip].z() < 9);
    CHECK(delta[ear].norm() < 0.05);
    hand.keeps = {0};
    const Points kept = sliders.delta(hand, shape, cameras);
    Points before = shape, after = shape, loose = shape;
    for (std::size_t v = 0; v < shape.size(); ++v) after[v] += kept[v], loose[v] += delta[v];
    const auto seen = visible_in(kit, shape, {*cameras[0]});
    const Points normals = vertex_normals(shape, kit.triangulation.triangles);
    double moved = 0, would = 0;
    for (const Index v : kit.region("face")) {
        if (!seen[v] || normals[v].dot(-cameras[0]->towards(shape[v])) < 0.6) continue;
        moved = std::max(moved, (cameras[0]->project(after[v]) - cameras[0]->project(before[v])).norm());
        would = std::max(would, (cameras[0]->project(loose[v]) - cameras[0]->project(before[v])).norm());
    }
    CHECK(would > 0.5);
    CHECK(moved < 0.05);
    CHECK(kept[tip].norm() > 2);
}

TEST_CASE("By hand: a dragged place is where it was dragged to, and little else moves") {
    const PhotoHeadInput in = input_of(sitter(3));
    const PhotoHead& fit = three_photos();
    const PinDrag drag(in, fit);
    const SurfacePoint& cheek = demo_kit()->landmarks.at("cheek_l");
    const PhotoCamera& camera = *fit.photos[0].camera;
    const Points solved = smooth_space().shape(demo_kit()->mesh.positions, fit.z);
    const Vec2 wanted = camera.project(cheek.at(solved)) + Vec2(6, -4);
    const Points now = smooth_space().shape(demo_kit()->mesh.positions, drag.pull(cheek, camera, wanted));
    CHECK((camera.project(cheek.at(now)) - wanted).norm() < 0.3);
    const auto& mouth = demo_kit()->landmarks.at("cheilion_r");
    CHECK((mouth.at(now) - mouth.at(solved)).norm() < 0.35 * (cheek.at(now) - cheek.at(solved)).norm());
}

TEST_CASE("Blend: half way between two people is half way, skins as well") {
    const BaseKit& kit = *demo_kit();
    const Points &a = kit.mesh.positions, &b = three_photos().positions;
    CHECK(blend_people(kit, a, b, 0) == a);
    CHECK(blend_people(kit, a, b, 1) == b);
    const Points half = blend_people(kit, a, b, 0.5);
    const Index tip = kit.landmarks.at("pronasale").vertices[0];
    CHECK((half[tip] - 0.5 * (a[tip] + b[tip])).norm() < 1e-9);
    const Pixels dark{2, 2, std::vector<std::uint8_t>(16, 40)}, light{4, 4, std::vector<std::uint8_t>(64, 80)};
    const auto both = blend_skins(dark, light, 0.25);
    REQUIRE(both);
    CHECK(both->width == 4);
    CHECK(both->rgba[5] == 50);
    CHECK_FALSE(blend_skins({}, light, 0.5));
}

TEST_CASE("Photo heads in a project: kept, sliders and touch-up on top, blended") {
    const Scratch scratch;
    const BaseKit& kit = *demo_kit();
    const BaseRegions regions = face_regions(kit);
    const HandSliders sliders(kit, smooth_space(), regions);
    ProjectState state = new_project(demo_kit());
    PhotoSet set{"portraits", std::make_shared<std::vector<Image>>(std::vector<Image>{
                                  {"front.png", "image/png", encode_png(sitter(3).photos[0].photo.pixels)}})};
    PhotoHeadSettings of_set;
    of_set.eyes_mm = 61.5;
    set.settings = std::make_shared<const PhotoHeadSettings>(of_set);
    state.subjects.push_back({"Mara", {}, {}, {set}});
    PhotoHeadSettings settings;
    settings.lenses.resize(3);
    settings.lenses[1].from = PhotoLens::From::Typed, settings.lenses[1].focal_35mm = 70;
    settings.places.push_back({kit.landmarks.at("cheek_l"), 0, Vec2(10, 20)});
    settings.heads = {"made up 1"};
    HandShape hand;
    hand.settings.push_back({"nose", HandMove::Wider, 2});
    hand.keeps = {0};
    add_fit(state.subjects[0], make_photo_record(kit, PhotoHead(three_photos()), state.subjects[0].photo_sets[0],
                                                 settings, {}, hand, nullptr, &sliders));
    FitRecord& fit = *state.subjects[0].fit();
    CHECK(photo_set_of(state.subjects[0], fit) == &state.subjects[0].photo_sets[0]);
    CHECK_FALSE(*fit.positions == *fit.photo->solved);
    TouchLayer layer;
    layer.vertex = {kit.landmarks.at("pronasale").vertices[0]}, layer.move = {Vec3(0, 0, 3)};
    set_touch(kit, fit, layer);
    REQUIRE(save_project(scratch / "p.veldstone", state));
    const auto loaded = load_project(scratch / "p.veldstone");
    REQUIRE(loaded);
    const FitRecord& back = *loaded->state.subjects[0].fit();
    REQUIRE(back.photo);
    CHECK(back.photo->settings == settings);
    CHECK(back.photo->hand == hand);
    CHECK(*back.photo->solved == three_photos().positions);
    CHECK(back.photo->z.size() == static_cast<std::size_t>(three_photos().z.size()));
    CHECK(*back.photo->photos[1].camera == *three_photos().photos[1].camera);
    CHECK(back.photo->seen_by == three_photos().seen_by);
    CHECK(*back.positions == *fit.positions);
    CHECK(loaded->state.subjects[0].photo_sets[0].settings->eyes_mm == 61.5);
    // the slider back: the touch-up stays
    set_hand(kit, sliders, fit, {});
    CHECK((*fit.positions)[layer.vertex[0]] == (*fit.photo->solved)[layer.vertex[0]] + Vec3(0, 0, 3));
    FitRecord base = fit;
    base.photo = nullptr, base.touch = nullptr, base.fitted = nullptr;
    base.positions = std::make_shared<Points>(kit.mesh.positions);
    CHECK(blend_fits(kit, base, fit, 0.5, {}).name == "blend 50 : 50");
    // dragged places under the name that they had in older files
    std::string older = photo_head_settings_text(settings);
    older.replace(older.find("\"places\""), 8, "\"pins\"");
    const auto read = parse_photo_head_settings(older, "here");
    REQUIRE(read);
    CHECK(read->places == settings.places);
    CHECK_FALSE(parse_photo_head_settings("{\"strenght\": 2}", "here"));
    CHECK_FALSE(parse_photo_head_settings("{\"strength\": -1}", "here"));
    CHECK_FALSE(parse_photo_head_settings("[", "here"));
}
