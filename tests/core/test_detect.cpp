#include <catch2/catch.hpp>

#include "core/base/cache.h"
#include "core/base/file.h"
#include "core/detect/carry_over.h"
#include "core/detect/detect.h"
#include "core/detect/find_face.h"
#include "core/detect/head_by_shape.h"
#include "core/detect/photo_face.h"
#include "core/detect/reference_store.h"
#include "core/fit/articulate.h"
#include "core/fit/floor.h"
#include "core/linalg/statistics.h"
#include "core/tidy/orient.h"
#include "demo/standins/made_up_base.h"
#include "demo/standins/made_up_person.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

FaceNetwork& network() {
    static FaceNetwork n;
    return n;
}
const FaceReference& reference() {
    static const FaceReference r = [] {
        auto made = face_reference(network(), *demo_kit());
        REQUIRE(made);
        return *made;
    }();
    return r;
}

DetectInput input_for(const Mesh& mesh) {
    DetectInput input;
    input.kit = demo_kit().get();
    input.source = &mesh;
    input.reference = &reference();
    const FrameGuess guess = guess_frame(mesh, "scan.obj", {});
    input.upright = rough_upright(mesh, guess.unit, guess.up, kUsualCrownMm);
    return input;
}

Mesh ball() {
    Mesh out;
    for (int j = 0; j <= 20; ++j) {
        for (int i = 0; i < 40; ++i) {
            const double a = M_PI * j / 20, b = 2 * M_PI * i / 40;
            out.positions.emplace_back(100 * std::sin(a) * std::cos(b), 100 * std::cos(a),
                                       100 * std::sin(a) * std::sin(b));
        }
    }
    for (Index j = 0; j < 20; ++j) {
        for (Index i = 0; i < 40; ++i) {
            const Index a = 40 * j + i, b = 40 * j + (i + 1) % 40;
            for (const Index v : {a, b, b + 40, a + 40}) out.corner_vertex.push_back(v);
            out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
        }
    }
    return out;
}

}  // namespace

TEST_CASE("Views: a surface is seen from outside only, and pixels lead back to it") {
    const auto kit = demo_kit();
    const SurfaceLook look = look_at_base(*kit);
    ViewCamera camera = portrait_camera(reference().place.centre, reference().place.radius, 20, 10);
    camera.size = 96;
    const Vec3 tip = kit->landmarks.at("pronasale").at(kit->mesh.positions);
    const auto hit = lift(look, camera, camera.project(tip));
    REQUIRE(hit);
    CHECK((hit->position - tip).norm() < 0.2);
    SECTION("the hollow side of a mask is not there") {
        Mesh inside_out = kit->mesh;
        for (Index f = 0; f < inside_out.face_count(); ++f)
            std::reverse(inside_out.corner_vertex.begin() + inside_out.face_start[f],
                         inside_out.corner_vertex.begin() + inside_out.face_start[f + 1]);
        const SurfaceLook hollow = look_at_surface(inside_out, {});
        const auto through =
            hollow.surface.query->first_front_hit(camera.eye(), camera.direction(camera.project(tip)));
        CHECK((!through || (through.position - tip).norm() > 20));
    }
    SECTION("and the same view is the same picture") {
        REQUIRE(draw_view(look, camera).rgba == draw_view(look, camera).rgba);
    }
}

TEST_CASE("Face network: a face is one, the back of the head is none") {
    const SurfaceLook look = look_at_base(*demo_kit());
    for (const double yaw : {0.0, 30.0, 180.0}) {
        ViewCamera camera = portrait_camera(reference().place.centre, reference().place.radius, yaw, 0);
        const FaceMesh face = network().mesh(draw_view(look, camera), {Vec2(96, 96), 192, 0});
        REQUIRE(face.points.size() == kFacePoints);
        const bool is_face = face.sure > kFaceGate;
        CHECK(is_face == (yaw < 90));
    }
}

TEST_CASE("Find face: upright, lying, upside-down and from behind") {
    const auto kit = demo_kit();
    Mesh head = kit->mesh;
    // the head alone, as a scan brings it
    VertexMask below(head.positions.size(), 0);
    for (std::size_t v = 0; v < below.size(); ++v) below[v] = head.positions[v].y() < 1420;
    for (const Vec3& turn : {Vec3(0, 0, 0), Vec3(0, 0, M_PI), Vec3(1.5, 0, 0), Vec3(0, 2.8, 0.4)}) {
        Similarity frame;
        frame.rotation = turn.norm() > 0 ? Eigen::AngleAxisd(turn.norm(), turn.normalized()).toRotationMatrix()
                                         : Mat3(Mat3::Identity());
        frame.scale = 0.37;
        const auto found = find_face(network(), look_at_surface(head, frame, &below), reference());
        REQUIRE(found);
        const Similarity both = found->to_kit * frame;  // should lay the base on itself
        CHECK(Eigen::AngleAxisd(both.rotation).angle() < 0.05);
        CHECK(both.scale == Approx(1).margin(0.02));
    }
}

TEST_CASE("Detect: a made-up head in any attitude is marked, and what may be wrong is said", "[accuracy]") {
    const auto kit = demo_kit();
    SubjectOptions options;
    options.seed = GENERATE(31u, 32u);
    options.subdivisions = 3;
    SyntheticSubject s = make_subject(*kit, options);
    if (options.seed == 31) {
        s.scan.colours = skin_colours(*kit, s.surface_on_base_mm, "juniper");
        s.scan.colours.resize(s.scan.positions.size(), Colour{120, 118, 112, 255});
    }
    const auto found = detect_landmarks(network(), input_for(s.scan), {});
    REQUIRE(found);
    CHECK(found->evaluations <= 60);
    CHECK(found->coloured == (options.seed == 31));
    std::vector<double> sharp, soft;
    int wanted = 0, wrong_unsaid = 0;
    for (const auto& [name, place] : kit->landmarks) {
        if (!in_point_set(name, PointSet::Head)) continue;
        wanted += in_point_set(name, PointSet::Face);
        const auto at = found->set.points.find(name);
        if (at == found->set.points.end()) continue;
        const double e = (at->second - s.scan_from_mm(place.at(s.truth_mm))).norm() / s.scan_from_mm.scale;
        const std::string region = landmark_scheme().point(name)->region;
        (region == "eye" || region == "mouth" || region == "nose" ? sharp : soft).push_back(e);
        wrong_unsaid += e > 6 && !unsure(found->set.trust_of(name));
    }
    CHECK(static_cast<int>(sharp.size() + soft.size()) >= wanted);
    CHECK(median(sharp) < 1.5);
    CHECK(median(soft) < 4.0);
    CHECK(wrong_unsaid <= 1);
    CHECK(found->set.curves.size() == kit->curves.size() - std::size(kInnerLips));  // the mouth is shut
    SECTION("points by hand, accepted or locked stay as they were") {
        LandmarkSet set;
        set.points["pronasale"] = {1, 2, 3};  // by hand
        set.points["pogonion"] = {4, 5, 6};
        set.trust["pogonion"] = {Origin::Found, 1, 0, 0, true, false, false};
        set.points["sellion"] = {7, 8, 9};
        set.trust["sellion"] = {Origin::Found, 1, 0, 0, false, false, false};
        merge_found(*found, set);
        CHECK(set.points["pronasale"] == Vec3(1, 2, 3));
        CHECK(set.points["pogonion"] == Vec3(4, 5, 6));
        CHECK(set.points["sellion"] == found->set.points.at("sellion"));
    }
}

TEST_CASE("Detect: closed eyes make lids and pupils unsure", "[accuracy]") {
    Mesh mesh = demo_kit()->mesh;
    for (const bool closed : {false, true}) {
        if (closed) mesh.positions = demo_kit()->expressions.at("blink");
        Mesh head = mesh;
        VertexMask below(head.positions.size(), 0);
        for (std::size_t v = 0; v < below.size(); ++v) below[v] = head.positions[v].y() < 1420;
        DetectInput input = input_for(head);
        input.ignored = &below;
        const auto found = detect_landmarks(network(), input, {});
        REQUIRE(found);
        REQUIRE(found->set.points.size() > 40);
        for (const char* name : {"palpebrale_superius_l", "palpebrale_superius_r"}) {
            REQUIRE(found->set.points.contains(name));
            CHECK(unsure(found->set.trust_of(name)) == closed);
        }
        CHECK_FALSE(unsure(found->set.trust_of("pronasale")));
    }
}

TEST_CASE("Detect: where no face is, it says so, and cancelling leaves at once") {
    const Mesh round = ball();
    const auto none = detect_landmarks(network(), input_for(round), {});
    REQUIRE_FALSE(none);
    CHECK(none.error().code == ErrorCode::NotFound);
    CHECK(none.error().message.find("minimal") != std::string::npos);
    Progress stopped;
    stopped.cancelled = [] { return true; };
    const auto stop = detect_landmarks(network(), input_for(demo_kit()->mesh), stopped);
    REQUIRE_FALSE(stop);
    CHECK(stop.error().code == ErrorCode::Cancelled);
    Mesh empty = round;
    empty.positions.assign(empty.positions.size(), Vec3(1, 1, 1));
    REQUIRE_FALSE(detect_landmarks(network(), input_for(empty), {}));
}

TEST_CASE("Detect: landmarks on a portrait, none on a picture without a face") {
    auto photo = read_photo(demo("subjects/juniper/juniper_front.jpg"));
    REQUIRE(photo);
    CHECK(photo->focal_35mm == 85);
    const auto found = detect_on_photo(network(), *demo_kit(), *photo, &reference());
    REQUIRE(found);
    CHECK(std::abs(found->yaw) < 10);
    // true places from demo/subjects/juniper/juniper.json, pixels
    const std::map<std::string, Vec2> truth = {{"pronasale", {589.79, 759.95}},
                                               {"exocanthion_l", {741.51, 657.76}},
                                               {"exocanthion_r", {435.11, 659.5}},
                                               {"stomion", {591.42, 868.74}},
                                               {"pogonion", {592.38, 974.47}}};
    for (const auto& [name, p] : truth)
        CHECK((found->marks.points.at(name) - p).norm() < 12);  // 3.1 pixels are a millimetre
    CHECK(found->left_out.contains("gonion_l"));
    PhotoMarks mine;
    mine.points["pronasale"] = {1, 2};
    merge_found(*found, mine);
    CHECK(mine.points.at("pronasale") == Vec2(1, 2));
    CHECK(mine.width == 1200);
    Photo grey{"grey.png", {64, 64, std::vector<std::uint8_t>(64 * 64 * 4, 128)}, 0};
    const auto none = detect_on_photo(network(), *demo_kit(), grey, &reference());
    REQUIRE_FALSE(none);
    CHECK(none.error().message.find("grey.png") != std::string::npos);
}

TEST_CASE("Skeleton: a bent figure is found again, in its size") {
    const auto kit = demo_kit();
    Pose bent = rest_pose(kit->joints);
    for (std::size_t j = 0; j < kit->joints.size(); ++j) {
        if (kit->joints[j].name == "upper_arm_l")
            bent.turns[j] = Eigen::AngleAxisd(-0.4, Vec3::UnitZ()).toRotationMatrix();
        if (kit->joints[j].name == "thigh_r")
            bent.turns[j] = Eigen::AngleAxisd(-0.15, Vec3::UnitZ()).toRotationMatrix();
    }
    const BaseKit figure = posed_kit(*kit, bent);
    Similarity larger;
    larger.scale = 1.06;
    const SourceSurface surface = prepare_source(figure.mesh, larger);
    const auto found = articulate(*kit, surface, {}, {}, {});
    REQUIRE(found);
    CHECK(found->to_kit.scale * larger.scale == Approx(1).margin(0.01));
    const BaseKit again = posed_kit(*kit, found->pose);
    const Similarity back = found->to_kit * larger;
    for (const char* name : {"dactylion_3_l", "stylion_l", "patella_r", "dactylion_3_r", "pronasale"}) {
        const SurfacePoint& at = kit->landmarks.at(name);
        CHECK((back(at.at(figure.mesh.positions)) - at.at(again.mesh.positions)).norm() < 8);
    }
    SECTION("in the rest pose skinning changes nothing") {
        const Points rest = skin(kit->mesh.positions, kit->joints, kit->weights, rest_pose(kit->joints));
        double worst = 0;
        for (std::size_t v = 0; v < rest.size(); ++v)
            worst = std::max(worst, (rest[v] - kit->mesh.positions[v]).norm());
        CHECK(worst < 1e-9);
    }
}

TEST_CASE("Floor: a figure's own soles are none, of any size") {
    const auto kit = demo_kit();
    for (const double size : {0.6, 1.0, 1.3}) {
        Points figure = kit->mesh.positions;
        for (Vec3& p : figure) p *= size;
        const auto floor = floor_vertices(figure, kit->triangulation.triangles);
        CHECK(std::count(floor.begin(), floor.end(), 1) == 0);
    }
}

TEST_CASE("Skeleton: bones of other lengths, and a stage under the feet") {
    const auto kit = demo_kit();
    Pose build = rest_pose(kit->joints);
    build.stretch.assign(kit->joints.size(), Mat3::Identity());
    for (std::size_t j = 0; j < kit->joints.size(); ++j) {
        const std::string& name = kit->joints[j].name;
        if (name.starts_with("shin") || name.starts_with("thigh")) build.stretch[j] = Vec3(1, 1.08, 1).asDiagonal();
        if (name.starts_with("hand")) build.stretch[j] = 1.1 * Mat3::Identity();
        if (name == "upper_arm_l") build.turns[j] = Eigen::AngleAxisd(-0.3, Vec3::UnitZ()).toRotationMatrix();
    }
    BaseKit figure = posed_kit(*kit, build);
    const Points body = figure.mesh.positions;
    const Box box = bounding_box(body);
    Mesh& mesh = figure.mesh;  // as a scan: with a square stage 2 mm under the soles
    const Index first = mesh.vertex_count();
    for (const double x : {-400.0, 400.0}) {
        for (const double z : {-400.0, 400.0}) mesh.positions.emplace_back(x, box.low.y() - 2, z);
    }
    for (const Index v : {first, first + 1, first + 3, first + 2}) mesh.corner_vertex.push_back(v);
    mesh.face_start.push_back(static_cast<Index>(mesh.corner_vertex.size()));
    const VertexMask floor = floor_vertices(mesh.positions, triangulate(mesh).triangles);
    CHECK(floor[first] == 1);
    for (const char* joint : {"patella_l", "malleolus_medial_r"})
        CHECK(floor[kit->landmarks.at(joint).vertices[0]] == 0);

    const auto ignored = ignored_with_floor(mesh, {}, nullptr);
    const SourceSurface surface = prepare_source(mesh, {}, &ignored);
    const auto found = articulate(*kit, surface, {}, {}, {});
    REQUIRE(found);
    const BaseKit again = posed_kit(*kit, found->pose);
    for (const char* name : {"patella_r", "malleolus_medial_r", "acropodion_l", "dactylion_3_r", "dactylion_3_l"}) {
        const SurfacePoint& at = kit->landmarks.at(name);
        INFO(name);
        CHECK((found->to_kit(at.at(body)) - at.at(again.mesh.positions)).norm() < 9);
    }
    SECTION("a pose is taken out and the build stays") {
        const Points straight = unposed(body, kit->joints, kit->weights, build);
        const Points wanted = skin(kit->mesh.positions, kit->joints, kit->weights, rest_of(build));
        double worst = 0;
        for (std::size_t v = 0; v < wanted.size(); ++v) worst = std::max(worst, (straight[v] - wanted[v]).norm());
        CHECK(worst < 1e-6);
        CHECK((straight[kit->landmarks.at("dactylion_3_l").vertices[0]] -
               body[kit->landmarks.at("dactylion_3_l").vertices[0]])
                  .norm() > 100);
    }
}

TEST_CASE("Face reference: kept on disk, made again when the file is damaged or the kit another") {
    Scratch scratch;
    const std::string folder = scratch / "cache";
    set_cache(folder, kUsualCacheBytes);
    const int before = network().evaluations();
    const auto made = kept_face_reference(network(), *demo_kit());
    REQUIRE(made);
    const int cost = network().evaluations() - before;
    REQUIRE(cost > 10);
    const auto kept = kept_face_reference(network(), *demo_kit());
    REQUIRE(kept);
    REQUIRE(network().evaluations() == before + cost);  // read, not made
    REQUIRE(kept->mean == made->mean);
    REQUIRE(kept->spread_mm == made->spread_mm);
    for (std::size_t i = 0; i < made->views.size(); ++i) REQUIRE(kept->views[i].points == made->views[i].points);

    const std::string file = folder + "/" + face_reference_file(*demo_kit());
    const std::string whole(read_file(file)->view());
    REQUIRE(write_file(file, whole.substr(0, whole.size() / 2)));
    REQUIRE(kept_face_reference(network(), *demo_kit()));
    REQUIRE(network().evaluations() == before + 2 * cost);
    REQUIRE(read_file(file)->view() == whole);

    BaseKit other = *demo_kit();
    other.mesh.positions[0].x() += 1;
    REQUIRE(face_reference_file(other) != face_reference_file(*demo_kit()));
    set_cache("/proc/no such folder", kUsualCacheBytes);
    REQUIRE(kept_face_reference(network(), *demo_kit()));
    set_cache({}, kUsualCacheBytes);
}

TEST_CASE("A head in which nobody sees a face is found by its form, whichever way it lies") {
    BaseOptions o;
    o.seed = 4, o.figure = false, o.parts = false, o.edge_mm = 6;
    MadeUpBase base = make_base(*demo_kit(), o);
    const Similarity to_mm = base.from_mm.inverse();
    for (const int turn : {0, 7, 18}) {
        CAPTURE(turn);
        const Similarity lies{1, axis_turns()[static_cast<std::size_t>(turn)], Vec3(40, 7, -300)};
        const SourceSurface surface = prepare_source(base.mesh, lies * to_mm);
        const auto found = head_by_shape(*demo_kit(), surface, {});
        REQUIRE(found);
        std::vector<double> off;
        for (const char* name : {"pronasale", "exocanthion_l", "exocanthion_r", "stomion", "vertex", "tragion_l"}) {
            const Vec3 known = demo_kit()->landmarks.at(name).at(demo_kit()->mesh.positions);
            off.push_back(((*found)(lies(base.landmarks.at(name))) - known).norm());
        }
        CHECK(*std::max_element(off.begin(), off.end()) < 25);
    }
    // a ball looks alike from everywhere
    Mesh ball;
    for (int r = 0; r < 40; ++r) {
        for (int s = 0; s < 60; ++s) {
            const double up = M_PI * (r + 1) / 41, about = 2 * M_PI * s / 60;
            ball.positions.emplace_back(95 * std::sin(up) * std::cos(about), 95 * std::cos(up),
                                        95 * std::sin(up) * std::sin(about));
        }
    }
    for (Index r = 0; r + 1 < 40; ++r) {
        for (Index s = 0; s < 60; ++s)
            add_face(ball, {r * 60 + s, r * 60 + (s + 1) % 60, (r + 1) * 60 + (s + 1) % 60, (r + 1) * 60 + s});
    }
    CHECK_FALSE(head_by_shape(*demo_kit(), prepare_source(ball, {}), {}));
    // stopped while it is looked for: that is what is said, not that there is no face
    bool stopped = false;
    Progress stop;
    stop.report = [&](double, const std::string& what) { stopped |= what.find("by its form") != std::string::npos; };
    stop.cancelled = [&] { return stopped; };
    DetectInput input;
    input.kit = demo_kit().get();
    input.source = &ball;
    input.reference = &reference();
    input.by_shape = true;
    const auto none = detect_landmarks(network(), input, stop);
    REQUIRE_FALSE(none);
    CHECK(stopped);
    CHECK(none.error().code == ErrorCode::Cancelled);
}
