// Heads straight from the side: found by their outline, their features by their looks, held in the solve.
#include <catch2/catch.hpp>
#include <cstring>
#include <random>

#include "core/linalg/statistics.h"
#include "core/photo/likeness.h"
#include "core/photo/seen.h"
#include "tests/support/sitters.h"

using namespace veld;

namespace {

const SittingPhoto& side_of(int seed) {
    static std::map<int, Sitting> made;
    auto at = made.find(seed);
    if (at == made.end()) {
        SittingOptions how;
        how.seed = static_cast<unsigned>(seed), how.photos = 2, how.width = 640, how.height = 800;
        at = made.emplace(seed, make_sitting(*demo_kit(), how)).first;
    }
    return at->second.photos[1];
}

// Shelves, frames and a lamp on the wall: everything that has the wall's colour is covered.
Photo before_shelves(const Photo& photo) {
    Photo out = photo;
    std::mt19937 random(5);
    const auto below = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    std::vector<std::array<int, 7>> things;
    for (int i = 0; i < 14; ++i)
        things.push_back({below(640), below(800), 20 + below(120), 20 + below(160), 60 + below(180), 60 + below(180),
                          60 + below(180)});
    for (int y = 0; y < 800; ++y) {
        for (int x = 0; x < 640; ++x) {
            std::uint8_t* c = &out.pixels.rgba[4 * (static_cast<std::size_t>(y) * 640 + static_cast<std::size_t>(x))];
            if (std::abs(c[0] - 176) > 14 || std::abs(c[1] - 180) > 14 || std::abs(c[2] - 182) > 14) continue;
            for (const auto& t : things) {
                if (x >= t[0] && x < t[0] + t[2] && y >= t[1] && y < t[1] + t[3])
                    c[0] = static_cast<std::uint8_t>(t[4]), c[1] = static_cast<std::uint8_t>(t[5]),
                    c[2] = static_cast<std::uint8_t>(t[6]);
            }
        }
    }
    return out;
}

Photo mirrored(const Photo& photo) {
    Photo out = photo;
    const auto w = static_cast<std::size_t>(photo.pixels.width);
    for (std::size_t y = 0; y < static_cast<std::size_t>(photo.pixels.height); ++y) {
        for (std::size_t x = 0; x < w; ++x)
            std::memcpy(&out.pixels.rgba[4 * (y * w + x)], &photo.pixels.rgba[4 * (y * w + w - 1 - x)], 4);
    }
    return out;
}

}  // namespace

TEST_CASE("Profile: a head from the side is found by its outline, facing either way, also before shelves") {
    const SittingPhoto& p = side_of(3);
    const HeadTurn truth = head_turn(p.camera);
    const double scale = p.camera.pixels_per_mm(Vec3(0, 1600, 0));
    const auto found = find_profile(*demo_kit(), p.photo, &smooth_space(), {});
    REQUIRE(found);
    CHECK(found->by_outline);
    CHECK(found->yaw == Approx(truth.yaw).margin(6));
    CHECK(found->roll == Approx(truth.roll).margin(4));
    CHECK(found->pixels_per_mm == Approx(scale).epsilon(0.15));  // no outline tells how large a head is
    REQUIRE(found->marks.points.contains("pronasale"));
    REQUIRE(found->marks.points.contains("gnathion"));
    std::vector<double> off;
    int within = 0;
    for (const auto& [name, at] : found->marks.points) {
        CHECK(found->marks.trust_of(name).origin == Origin::Found);
        const auto t = p.true_marks.points.find(name);
        if (t == p.true_marks.points.end()) continue;
        off.push_back((at - t->second).norm());
        within += off.back() < 2 * found->marks.trust_of(name).expected_mm;
    }
    REQUIRE(off.size() >= 8);
    CHECK(median(off) / scale < 5);
    CHECK(within >=
          static_cast<int>(0.8 * static_cast<double>(off.size())));  // they say themselves how far off they may be
    CHECK(found->left_out.contains("cheilion_r"));
    // looked at again with what was found: still a profile, and nobody's marks
    LookOptions look;
    look.space = &smooth_space();
    const auto again =
        look_at_photos(*demo_kit(), {{"side.png", "image/png", encode_png(p.photo.pixels)}}, {found->marks}, look, {});
    REQUIRE(again);
    REQUIRE(again->front().found);
    CHECK(again->front().found->by_outline);
    for (const PhotoRemark& r : again->front().report.remarks)
        CHECK(r.says.find("marked by hand") == std::string::npos);
    const auto other = find_profile(*demo_kit(), mirrored(p.photo), &smooth_space(), {});
    REQUIRE(other);
    CHECK(other->yaw == Approx(-truth.yaw).margin(6));
    CHECK(other->marks.points.at("pronasale").x() ==
          Approx(640 - found->marks.points.at("pronasale").x()).margin(4 * scale));
    const auto shelves = find_profile(*demo_kit(), before_shelves(p.photo), &smooth_space(), {});
    REQUIRE(shelves);
    CHECK((shelves->marks.points.at("pronasale") - found->marks.points.at("pronasale")).norm() / scale < 4);
}

TEST_CASE("Profile: cancelled at any time it says so and finds nothing") {
    const SittingPhoto& p = side_of(3);
    int asked = 0;
    Progress never;
    never.cancelled = [&] { return ++asked, false; };
    REQUIRE(find_profile(*demo_kit(), p.photo, &smooth_space(), never));
    REQUIRE(asked >= 4);
    for (const int at : {1, asked / 2, asked}) {
        int now = 0;
        Progress once;
        once.cancelled = [&] { return ++now >= at; };
        const auto found = find_profile(*demo_kit(), p.photo, &smooth_space(), once);
        REQUIRE_FALSE(found);
        CHECK(found.error().code == ErrorCode::Cancelled);
    }
    // the same whoever asks for it
    for (const int at : {1, asked / 4}) {
        int now = 0;
        Progress once;
        once.cancelled = [&] { return ++now >= at; };
        FaceNetwork network;
        const auto asked_for = find_on_photo(network, *demo_kit(), p.photo, nullptr, 0, &smooth_space(), once);
        REQUIRE_FALSE(asked_for);
        CHECK(asked_for.error().code == ErrorCode::Cancelled);
        now = 0;
        LookOptions look;
        look.space = &smooth_space();
        const auto looked =
            look_at_photos(*demo_kit(), {{"side.png", "image/png", encode_png(p.photo.pixels)}}, {{}}, look, once);
        REQUIRE_FALSE(looked);
        CHECK(looked.error().code == ErrorCode::Cancelled);
    }
    // who stopped it wants no marks either where the networks were quick enough to find a face
    Progress stopped;
    stopped.cancelled = [] { return true; };
    FaceNetwork network;
    const auto front =
        find_on_photo(network, *demo_kit(), sitter(1).photos[0].photo, nullptr, 0, &smooth_space(), stopped);
    REQUIRE_FALSE(front);
    CHECK(front.error().code == ErrorCode::Cancelled);
}

TEST_CASE("Profile: walls, shelves and noise are no heads, the networks' faces come first", "[accuracy]") {
    Photo wall;
    wall.name = "wall.png";
    wall.pixels = {640, 800, std::vector<std::uint8_t>(640 * 800 * 4, 180)};
    for (std::size_t i = 0; i < wall.pixels.rgba.size(); i += 4)
        wall.pixels.rgba[i] = 176, wall.pixels.rgba[i + 2] = 182;
    const auto nothing = find_profile(*demo_kit(), wall, &smooth_space(), {});
    REQUIRE_FALSE(nothing);
    CHECK(nothing.error().code == ErrorCode::NotFound);
    CHECK(nothing.error().message.find("wall.png") != std::string::npos);
    CHECK_FALSE(find_profile(*demo_kit(), before_shelves(wall), &smooth_space(), {}));
    Photo noise = wall;
    std::mt19937 random(3);
    for (std::uint8_t& c : noise.pixels.rgba) c = static_cast<std::uint8_t>(random());
    CHECK_FALSE(find_profile(*demo_kit(), noise, &smooth_space(), {}));
    Photo tiny;
    tiny.name = "tiny.png";
    tiny.pixels = {8, 8, std::vector<std::uint8_t>(256, 90)};
    CHECK_FALSE(find_profile(*demo_kit(), tiny, &smooth_space(), {}));
    FaceNetwork network;
    const auto front = find_on_photo(network, *demo_kit(), sitter(1).photos[0].photo, nullptr, 0, &smooth_space(), {});
    REQUIRE(front);
    CHECK_FALSE(front->by_outline);
    CHECK_FALSE(front->samples.empty());
}

TEST_CASE("Profile: front and side that nobody marked become a head", "[accuracy]") {
    SittingOptions how;
    how.seed = 3, how.photos = 2;
    const Sitting s = make_sitting(*demo_kit(), how);
    std::vector<LookedAt> looked;
    FaceNetwork network;
    const auto reference = face_reference(network, *demo_kit());
    REQUIRE(reference);
    PhotoHeadInput in;
    in.kit = demo_kit().get(), in.space = &smooth_space();
    for (const SittingPhoto& p : s.photos) {
        const auto found = find_on_photo(network, *demo_kit(), p.photo, &*reference, 0, &smooth_space(), {});
        REQUIRE(found);
        in.photos.push_back(
            {&p.photo, p.photo.name, p.photo.focal_35mm, found->marks, std::make_shared<PhotoDetection>(*found)});
        const PhotoReport report = report_on(*demo_kit(), p.photo, &*found);
        CHECK(report.face);
        CHECK(report.pixels_per_mm == Approx(p.camera.pixels_per_mm(Vec3(0, 1600, 40))).epsilon(0.15));
    }
    const auto fit = fit_photos(in, {});
    REQUIRE(fit);
    REQUIRE(fit->photos[1].camera);
    const PhotoTruth t = compare_with_truth(*demo_kit(), s, *fit);
    CHECK(t.surface_median < 1.2);
    CHECK(t.yaw_worst < 5);
    CHECK(fit->figures.flipped_faces == 0);
    for (const std::string& note : fit->notes) {
        CHECK(note.find("another person") == std::string::npos);  // rough marks are no evidence of that,
        CHECK(note.find("side.png' says") == std::string::npos);  // and none of a wrong lens
    }
    // somebody puts its marks right: they count, and the camera is placed by them
    in.photos[1].marks = s.photos[1].marks;
    const auto by_hand = fit_photos(in, {});
    REQUIRE(by_hand);
    CHECK(compare_with_truth(*demo_kit(), s, *by_hand).yaw_worst < 3);
    CHECK(by_hand->photos[1].landmarks == static_cast<int>(s.photos[1].marks.points.size()));
}

TEST_CASE("Photo solve: a turn that is expected is kept where nothing else tells it") {
    const Points& base = demo_kit()->mesh.positions;
    Portrait how;
    how.yaw = 78, how.target = Vec3(0, 1600, 0), how.distance = 1200;
    const PhotoCamera truth = camera_of(how);
    const auto solve = [&](std::optional<double> yaw, double sigma) {
        SolveProblem p;
        p.base = &base, p.space = &smooth_space();
        SolveView view;
        view.camera = truth, view.focal_fixed = true;
        for (const char* name : {"sellion", "pronasale", "gnathion", "tragion_l"}) {
            const SurfacePoint& place = demo_kit()->landmarks.at(name);
            view.sights.push_back({place, truth.project(place.at(base)), 8.0, {}});
        }
        view.expected_yaw = yaw, view.yaw_sigma = sigma;
        p.views.push_back(view);
        const auto solved = solve_photos(p, {});
        REQUIRE(solved);
        return head_turn(solved->cameras[0]).yaw;
    };
    CHECK(solve({}, 5) == Approx(78).margin(0.1));
    CHECK(solve(90, 0.01) == Approx(90).margin(0.1));
    const double between = solve(90, 3);
    CHECK(between > 78.5);
    CHECK(between < 90);
}

TEST_CASE("Likeness: a feature is found where it was moved to") {
    SittingOptions how;
    how.seed = 4, how.photos = 3;
    const Sitting s = make_sitting(*demo_kit(), how);
    const SittingPhoto& p = s.photos[1];
    const Likeness likeness(*demo_kit());
    const double scale = p.camera.pixels_per_mm(demo_kit()->landmarks.at("cheilion_l").at(s.subject.truth_mm));
    const EdgePicture picture = edge_picture(p.photo.pixels, scale);
    PhotoCamera off = p.camera;
    off.move += Vec3(4, -3, 0);  // the camera is taken to stand beside where it does
    const auto found = likeness.find({{"eye", {"exocanthion_l"}, 20, 9}, {"nose", {"alare_l"}, 18, 9}},
                                     s.subject.truth_mm, off, picture);
    REQUIRE(found.size() == 2);
    for (const FeatureFound& f : found) {
        CAPTURE(f.feature.region);
        CHECK(f.match > 0.38);
        CHECK(f.match > f.second + 0.06);
        CHECK(f.shift.x() / scale == Approx(-4).margin(1.6));
        CHECK(f.shift.y() / scale == Approx(3).margin(1.6));
    }
}

TEST_CASE("Seen skin: grows from the face, stops at hair, leaves out a lock of skin's colour beyond it") {
    const BaseKit& kit = *demo_kit();
    const Points& shape = kit.mesh.positions;
    PhotoCamera camera;
    camera.parallel = true, camera.focal = 2, camera.width = 800, camera.height = 1000, camera.centre = Vec2(400, 500);
    camera.turn << 1, 0, 0, 0, -1, 0, 0, 0, -1;
    const Vec3 sellion = kit.landmarks.at("sellion").at(shape);
    camera.move = -camera.turn * sellion;
    const auto visible_bits = visible_in(kit, shape, {camera});
    VertexMask visible(visible_bits.begin(), visible_bits.end());
    // skin everywhere but for a band of dark hair from 40 to 75 mm above the root of the nose: a fringe
    EdgePicture picture;
    picture.width = 800, picture.height = 1000, picture.shrunk = 1;
    for (int y = 0; y < 1000; ++y) {
        const double up = (500 - y) / 2.0;
        const bool hair = up > 40 && up < 75;
        for (int x = 0; x < 800; ++x)
            picture.rgb.insert(picture.rgb.end(), {hair ? 0.06f : 0.75f, hair ? 0.07f : 0.55f, hair ? 0.10f : 0.45f});
    }
    std::vector<Vec2> on_skin;
    for (int i = 0; i < 60; ++i) on_skin.emplace_back(380 + i % 8, 480 + i);
    const SkinTone tone = skin_tone(picture, on_skin);
    REQUIRE(tone.known);
    const auto shown = skin_shown(kit, shape, camera, visible, picture, tone);
    int below = 0, in_hair = 0, above = 0, missed = 0;
    for (std::size_t v = 0; v < shape.size(); ++v) {
        CHECK((!shown[v] || visible[v]));
        if (!visible[v]) continue;
        const double up = shape[v].y() - sellion.y();
        if (up < 35 && up > -60 && std::abs(shape[v].x()) < 40) shown[v] ? ++below : ++missed;
        if (shown[v] && up > 45 && up < 70) ++in_hair;
        if (shown[v] && up > 80) ++above;
    }
    CHECK(below > 200);
    CHECK(missed == 0);
    CHECK(in_hair == 0);
    CHECK(above == 0);
}
