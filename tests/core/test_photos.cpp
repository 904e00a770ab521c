// Photographs: cameras, the shape space, the solve, outlines, skins, sliders.
#include <catch2/catch.hpp>
#include <cstring>
#include <random>

#include "core/base/file.h"
#include "core/io/exif.h"
#include "core/linalg/statistics.h"
#include "core/photo/by_hand.h"
#include "core/photo/look_at_photos.h"
#include "core/photo/seen.h"
#include "core/project/fits.h"
#include "core/project/photo_heads.h"
#include "core/project/records/photo_record.h"
#include "core/project/store.h"
#include "core/skin/blend_skins.h"
#include "core/skin/first_skin.h"
#include "core/touchup/layer.h"
#include "demo/standins/sitting.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"
#include "tests/support/sitters.h"

using namespace veld;

namespace {

const PhotoHead& three_photos() {
    static const PhotoHead fit = *fit_photos(input_of(sitter(3)), {});
    return fit;
}

PhotoCamera some_camera(bool parallel) {
    Portrait how;
    how.yaw = 33, how.pitch = 7, how.roll = -4, how.target = Vec3(0, 1600, 40), how.distance = 900;
    PhotoCamera c = camera_of(how);
    if (parallel) c.parallel = true, c.focal = 2.5;
    return c;
}

}  // namespace

TEST_CASE("Photo camera: pixels and rays agree, a lens is named by its length on film") {
    for (const bool parallel : {false, true}) {
        const PhotoCamera c = some_camera(parallel);
        const Vec3 p(20, 1630, 90);
        const PixelRay ray = ray_through(c, c.project(p));
        CHECK((p - ray.origin).cross(ray.direction).norm() < 1e-6);
        CHECK((p - ray.origin).dot(ray.direction) > 0);
        CHECK(c.towards(p).dot(ray.direction) == Approx(1).margin(1e-9));
    }
    const PhotoCamera c = some_camera(false);
    CHECK(c.focal_35mm() == Approx(85));
    const HeadTurn turn = head_turn(c);
    CHECK(turn.yaw == Approx(33));
    CHECK(turn.pitch == Approx(7));
    CHECK(std::abs(turn.roll) == Approx(4).margin(0.6));
}

TEST_CASE("Shape space: modes are of one size, alike on both sides, and still below the neck") {
    const ShapeSpace& space = smooth_space();
    const BaseKit& kit = *demo_kit();
    CHECK(space.count() > 200);
    CHECK(space.known == 0);
    // what the Gaussian says of a place: its standard deviation, and how left and right go together
    const Index nose = kit.landmarks.at("pronasale").vertices[0], left = kit.landmarks.at("cheek_l").vertices[0],
                right = kit.mirror[left];
    const auto a = space.rows(left), b = space.rows(right);
    CHECK(std::sqrt(space.rows(nose).squaredNorm() / 3) > 1.5);
    CHECK(std::sqrt(a.squaredNorm() / 3) < 8);
    CHECK(a.row(1).dot(b.row(1)) / (a.row(1).norm() * b.row(1).norm()) == Approx(0.8).margin(0.15));
    CHECK(a.row(0).dot(b.row(0)) / (a.row(0).norm() * b.row(0).norm()) == Approx(-0.8).margin(0.15));
    for (const Index v : kit.neck_ring) CHECK(space.rows(v).norm() == 0);
    Eigen::VectorXd z = Eigen::VectorXd::Zero(space.count());
    CHECK(space.shape(kit.mesh.positions, z) == kit.mesh.positions);
    z[0] = 1.5, z[40] = -0.7;
    const Points shape = space.shape(kit.mesh.positions, z);
    CHECK((coefficients_of(space, kit.mesh.positions, shape, 0.05) - z).cwiseAbs().maxCoeff() < 0.2);
    // an eyeball goes with its lids
    const auto& eye = kit.part("eye_l")->vertices;
    CHECK((space.rows(eye.front()) - space.rows(eye.back())).norm() == 0);
    CHECK(space.rows(eye.front()).norm() > 0);
}

TEST_CASE("Shape space: known heads are in it, those of another base are refused") {
    const auto heads = made_up_heads(*demo_kit(), 4);
    REQUIRE(heads.size() == 4);
    std::vector<const Morph*> known;
    for (const Morph& m : heads) known.push_back(&m);
    const auto space = make_shape_space(*demo_kit(), *whole_deltas(*demo_kit(), known));
    REQUIRE(space);
    CHECK(space->known >= 3);
    const Points shape = mix_morphs(demo_kit()->mesh.positions, {{known[1], 1}});
    const Eigen::VectorXd z = coefficients_of(*space, demo_kit()->mesh.positions, shape);
    const Points back = space->shape(demo_kit()->mesh.positions, z);
    double worst = 0;
    for (const Index v : demo_kit()->region("face")) worst = std::max(worst, (back[v] - shape[v]).norm());
    CHECK(worst < 1.0);
    Morph foreign = heads[0];
    foreign.topology = "another";
    const auto refused = whole_deltas(*demo_kit(), {&foreign});
    REQUIRE_FALSE(refused);
    CHECK(refused.error().message.find("made up 1") != std::string::npos);
    CHECK_FALSE(make_shape_space(*demo_kit(), {Points(7, Vec3::Zero())}));
}

TEST_CASE("Photo solve: of one lens for all a typed one is everybody's, whichever photograph it was typed on") {
    const BaseKit& kit = *demo_kit();
    SolveProblem p;
    p.base = &kit.mesh.positions, p.space = &smooth_space(), p.z = Eigen::VectorXd();
    p.one_lens = true, p.iterations = 60;
    for (const double yaw : {0.0, 50.0}) {
        Portrait how;
        how.yaw = yaw, how.focal_35mm = 50, how.target = Vec3(0, 1600, 40), how.distance = 700;
        SolveView view;
        view.camera = camera_of(how);
        for (const auto& [name, place] : kit.landmarks) {
            if (in_point_set(name, PointSet::Head))
                view.sights.push_back({place, view.camera.project(place.at(kit.mesh.positions)), 1, {}});
        }
        p.views.push_back(view);
    }
    const double typed = p.views[1].camera.focal;
    p.views[0].camera.focal *= 1.6;  // the first one starts elsewhere
    SECTION("typed on the second: the first follows") {
        p.views[1].focal_fixed = true;
        const auto solved = solve_photos(p, {});
        REQUIRE(solved);
        CHECK(solved->cameras[1].focal == Approx(typed));
        CHECK(solved->cameras[0].focal == Approx(typed));
    }
    SECTION("two different typed ones stay what they are") {
        p.views[0].focal_fixed = p.views[1].focal_fixed = true;
        const auto solved = solve_photos(p, {});
        REQUIRE(solved);
        CHECK(solved->cameras[0].focal == Approx(1.6 * typed));
        CHECK(solved->cameras[1].focal == Approx(typed));
    }
    SECTION("nothing typed: one is found for both") {
        const auto solved = solve_photos(p, {});
        REQUIRE(solved);
        CHECK(solved->cameras[0].focal == solved->cameras[1].focal);
        CHECK(solved->cameras[0].focal == Approx(typed).epsilon(0.02));
    }
}

TEST_CASE("Photo solve: exact sights of a known shape give its cameras back") {
    const BaseKit& kit = *demo_kit();
    SolveProblem p;
    p.base = &kit.mesh.positions, p.space = &smooth_space(), p.z = Eigen::VectorXd();
    for (const double yaw : {0.0, 50.0}) {
        Portrait how;
        how.yaw = yaw, how.pitch = 3, how.roll = 2, how.focal_35mm = 50, how.target = Vec3(0, 1600, 40),
        how.distance = 700;
        SolveView view;
        view.camera = camera_of(how);
        for (const auto& [name, place] : kit.landmarks) {
            if (in_point_set(name, PointSet::Head))
                view.sights.push_back({place, view.camera.project(place.at(kit.mesh.positions)), 1, {}});
        }
        PhotoCamera like = view.camera;
        like.turn = Mat3::Identity(), like.move = Vec3::Zero(), like.focal *= 1.4;
        auto placed = place_camera(like, view.sights, kit.mesh.positions);
        REQUIRE(placed);
        view.camera = *placed;
        p.views.push_back(view);
    }
    p.iterations = 60;
    const auto solved = solve_photos(p, {});
    REQUIRE(solved);
    for (const PhotoCamera& c : solved->cameras) CHECK(c.focal_35mm() == Approx(50).epsilon(0.01));
    CHECK(head_turn(solved->cameras[1]).yaw == Approx(50).margin(0.1));
    CHECK_FALSE(place_camera(solved->cameras[0], {p.views[0].sights[0], p.views[0].sights[1]}, kit.mesh.positions));
    Progress stopped;
    stopped.cancelled = [] { return true; };
    const auto stop = solve_photos(p, stopped);
    REQUIRE_FALSE(stop);
    CHECK(stop.error().code == ErrorCode::Cancelled);
}

TEST_CASE("Photo head: three photographs of a made-up person, marks 1 mm off") {
    const PhotoHead& fit = three_photos();
    const PhotoTruth t = compare_with_truth(*demo_kit(), sitter(3), fit);
    CHECK(t.surface_median < 1.3);
    CHECK(t.place_mean < 3);
    CHECK(t.yaw_worst < 2.5);
    CHECK(t.focal_worst < 0.1);
    CHECK(fit.figures.flipped_faces == 0);
    CHECK(fit.figures.self_intersections == 0);
    REQUIRE(fit.photos.size() == 3);
    for (const PhotoFigures& p : fit.photos) CHECK(p.landmark_rms_mm < 2);
    // what no camera saw keeps the base's own shape; the face was seen more than once
    CHECK(fit.region_seen.at("face")[2] > 0.3);
    CHECK(fit.region_seen.at("skull")[0] > 0.2);
    for (const Index v : demo_kit()->region("body_skin")) CHECK(fit.positions[v] == demo_kit()->mesh.positions[v]);
}

TEST_CASE("Photo head: the same input gives the same head, cancel gives none, more photographs give a better one") {
    const PhotoHeadInput in = input_of(sitter(1));
    const auto one = fit_photos(in, {}), again = fit_photos(in, {});
    REQUIRE(one);
    REQUIRE(again);
    double apart = 0;
    for (std::size_t v = 0; v < one->positions.size(); ++v)
        apart = std::max(apart, (one->positions[v] - again->positions[v]).norm());
    CHECK(apart < 1e-6);
    CHECK(compare_with_truth(*demo_kit(), sitter(1), *one).place_mean >
          compare_with_truth(*demo_kit(), sitter(3), three_photos()).place_mean);
    int asked = 0;
    Progress stopped;
    stopped.cancelled = [&] { return ++asked > 8; };
    const auto stop = fit_photos(in, stopped);
    REQUIRE_FALSE(stop);
    CHECK(stop.error().code == ErrorCode::Cancelled);
}

TEST_CASE("Photo head: a typed lens is kept, going on moves the camera and not the picture, a known size is met") {
    PhotoHeadInput in = input_of(sitter(3));
    in.cameras.clear();
    for (const PhotoFigures& f : three_photos().photos) in.cameras.push_back(f.camera);
    in.z = three_photos().z;
    in.quick = true;
    in.settings.lenses.resize(3);
    const double before = three_photos().photos[0].camera->focal_35mm();
    in.settings.lenses[0].from = PhotoLens::From::Typed, in.settings.lenses[0].focal_35mm = 2 * before;
    const auto longer = fit_photos(in, {});
    REQUIRE(longer);
    CHECK(longer->photos[0].camera->focal_35mm() == Approx(2 * before));
    CHECK(longer->photos[0].distance_mm > 1.6 * three_photos().photos[0].distance_mm);
    CHECK(longer->photos[0].landmark_rms_mm < 4);
    in.quick = false;
    in.settings.lenses.clear();
    in.settings.eyes_mm = 70;
    const auto sized = fit_photos(in, {});
    REQUIRE(sized);
    const auto& marks = demo_kit()->landmarks;
    CHECK((marks.at("pupil_l").at(sized->positions) - marks.at("pupil_r").at(sized->positions)).norm() ==
          Approx(70).margin(1.5));
}

TEST_CASE("Photo head: what the network marks on a turned face counts less than on one from the front") {
    // nobody's hands: marks as a network finds them, those of the three-quarter drawn apart by a twentieth
    PhotoHeadInput in = input_of(sitter(3));
    in.photos.erase(in.photos.begin() + 2);
    for (std::size_t i = 0; i < 2; ++i) {
        PhotoView2D& view = in.photos[i];
        const SittingPhoto& p = sitter(3).photos[i];
        view.marks = p.true_marks;
        const Vec2 middle = view.marks.points.at("pronasale");
        for (auto& [name, at] : view.marks.points) {
            if (i == 1) at.x() = middle.x() + 1.05 * (at.x() - middle.x());
            view.marks.trust[name].origin = Origin::Found;
        }
    }
    const auto off_with = [&](double said_yaw) {
        PhotoDetection turned;
        turned.yaw = said_yaw;
        in.photos[1].found = std::make_shared<PhotoDetection>(turned);
        const auto fit = fit_photos(in, {});
        REQUIRE(fit);
        Sitting two = sitter(3);
        two.photos.pop_back();
        return compare_with_truth(*demo_kit(), two, *fit).place_mean;
    };
    const double as_from_the_front = off_with(0), as_turned = off_with(head_turn(sitter(3).photos[1].camera).yaw);
    CHECK(as_turned < 0.97 * as_from_the_front);
}

TEST_CASE("Photo head: a wrong lens in the file and another person are suspected, the right ones are not",
          "[accuracy]") {
    for (const std::string& note : three_photos().notes) CHECK(note.find("looks as taken") == std::string::npos);
    PhotoHeadInput in = input_of(sitter(3));
    in.photos[0].focal_35mm *= 3;
    const auto wrong = fit_photos(in, {});
    REQUIRE(wrong);
    bool said = false;
    for (const std::string& note : wrong->notes)
        said |= note.find("front.png") != std::string::npos && note.find("looks as taken") != std::string::npos;
    CHECK(said);
    SittingOptions other;
    other.seed = 13, other.width = 600, other.height = 750;
    const Sitting another = make_sitting(*demo_kit(), other);
    in = input_of(sitter(3));
    in.photos[1] = {&another.photos[1].photo, "other.png", another.photos[1].photo.focal_35mm, another.photos[1].marks,
                    nullptr};
    const auto not_one_person = fit_photos(in, {});
    REQUIRE(not_one_person);
    said = false;
    for (const std::string& note : not_one_person->notes) said |= note.find("another person") != std::string::npos;
    CHECK(said);
    for (const std::string& note : three_photos().notes) CHECK(note.find("another person") == std::string::npos);
    in = input_of(sitter(3));
    PhotoMarks exchanged = in.photos[1].marks;
    for (auto& [name, p] : exchanged.points) {
        if (const auto other = in.photos[1].marks.points.find(other_side(name));
            other != in.photos[1].marks.points.end())
            p = other->second;
    }
    in.photos[1].marks = exchanged;
    const auto mixed = fit_photos(in, {});
    REQUIRE(mixed);
    said = false;
    for (const std::string& note : mixed->notes) said |= note.find("three_quarter.png") != std::string::npos;
    CHECK(said);
}

TEST_CASE("Photo head: too little is said with the photograph's name, a strange space is refused") {
    PhotoHeadInput in = input_of(sitter(3));
    in.photos[2].marks.points.clear(), in.photos[2].marks.curves.clear();
    const auto two = fit_photos(in, {});
    REQUIRE(two);
    CHECK_FALSE(two->photos[2].camera);
    CHECK(two->notes.back().find("side.png") != std::string::npos);
    for (PhotoView2D& p : in.photos) p.marks.points.clear();
    const auto none = fit_photos(in, {});
    REQUIRE_FALSE(none);
    CHECK(none.error().code == ErrorCode::DegenerateInput);
    ShapeSpace foreign = smooth_space();
    foreign.topology = "another";
    in.space = &foreign;
    CHECK_FALSE(fit_photos(in, {}));
    // marks that are no numbers must not come out as a head
    in = input_of(sitter(1));
    for (auto& [name, p] : in.photos[0].marks.points) p = Vec2(std::nan(""), 1);
    CHECK_FALSE(fit_photos(in, {}));
}

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

TEST_CASE("First skin: seen skin comes from the photographs, seams are levelled, the rest is filled") {
    const Sitting& s = sitter(3);
    std::vector<SkinPhoto> photos;
    for (const SittingPhoto& p : s.photos) {
        photos.push_back({&p.photo.pixels, p.camera, {}});
        for (const auto& [name, at] : p.true_marks.points) photos.back().on_skin.push_back(at);
    }
    FirstSkinSettings settings;
    settings.size = 512;
    const auto skin = first_skin(*demo_kit(), s.subject.truth_mm, photos, settings, {});
    REQUIRE(skin);
    CHECK(skin->texture.width == 512);
    CHECK(skin->from_photos > 0.3);
    CHECK(skin->from_photos + skin->mirrored + skin->from_base == Approx(1));
    CHECK(skin->mirrored > 0.05);  // only the left side has a photograph of its own
    CHECK(skin->seam_step < 0.35 * skin->seam_step_before);
    settings.mirror_fill = false;
    const auto plain = first_skin(*demo_kit(), s.subject.truth_mm, photos, settings, {});
    REQUIRE(plain);
    CHECK(plain->mirrored == 0);
    Progress stopped;
    stopped.cancelled = [] { return true; };
    CHECK(first_skin(*demo_kit(), s.subject.truth_mm, photos, settings, stopped).error().code == ErrorCode::Cancelled);
    CHECK_FALSE(first_skin(*demo_kit(), s.subject.truth_mm, {}, settings, {}));
    BaseKit bare = *demo_kit();
    bare.mesh.corner_uv.clear();
    const auto none = first_skin(bare, s.subject.truth_mm, photos, settings, {});
    REQUIRE_FALSE(none);
    CHECK(none.error().message.find("UV") != std::string::npos);
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
    fit.skin.image =
        std::make_shared<Image>(Image{"skin.png", "image/png", encode_png({2, 2, std::vector<std::uint8_t>(16, 90)})});
    fit.skin.kit_image = 0, fit.skin.from_photos = 0.5;
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
    REQUIRE(back.skin.image);
    CHECK(*back.skin.image == *fit.skin.image);
    CHECK(loaded->state.subjects[0].photo_sets[0].settings->eyes_mm == 61.5);
    // the slider back: the touch-up stays
    set_hand(kit, sliders, fit, {});
    CHECK((*fit.positions)[layer.vertex[0]] == (*fit.photo->solved)[layer.vertex[0]] + Vec3(0, 0, 3));
    FitRecord base = fit;
    base.photo = nullptr, base.touch = nullptr, base.fitted = nullptr, base.skin = {};
    base.positions = std::make_shared<Points>(kit.mesh.positions);
    const auto both = blend_fits(kit, base, fit, 0.5, true, {});
    REQUIRE(both);
    CHECK(both->skin.image);
    CHECK(both->name == "blend 50 : 50");
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
