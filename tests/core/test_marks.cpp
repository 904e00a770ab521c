#include <catch2/catch.hpp>
#include <filesystem>
#include <fstream>
#include <set>

#include "core/io/exif.h"
#include "core/landmark/copy_marks.h"
#include "core/landmark/photo_marks.h"
#include "core/landmark/plausible.h"
#include "core/landmark/snap.h"
#include "core/linalg/smooth_map.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

// A height field over x, y in -20..20 mm, a vertex each half millimetre.
struct Field {
    Points positions;
    std::vector<Triangle> triangles;
    std::unique_ptr<SurfaceQuery> query;
    SnapSurface surface;

    explicit Field(const std::function<double(double, double)>& height) {
        constexpr Index n = 81;
        for (Index j = 0; j < n; ++j) {
            for (Index i = 0; i < n; ++i) {
                const double x = -20 + 0.5 * i, y = -20 + 0.5 * j;
                positions.emplace_back(x, y, height(x, y));
            }
        }
        for (Index j = 0; j + 1 < n; ++j) {
            for (Index i = 0; i + 1 < n; ++i) {
                const Index a = j * n + i;
                triangles.push_back({a, a + 1, a + n + 1});
                triangles.push_back({a, a + n + 1, a + n});
            }
        }
        query = std::make_unique<SurfaceQuery>(positions, triangles);
        surface.query = query.get();
    }
};

LandmarkSet kit_marks(PointSet set) {
    LandmarkSet out;
    for (const auto& [name, p] : demo_kit()->landmark_positions().points) {
        if (in_point_set(name, set)) out.points[name] = p;
    }
    return out;
}

std::map<std::string, Vec3> base_places() { return demo_kit()->landmark_positions().points; }

}  // namespace

TEST_CASE("Marks: what is known of a point travels with its file") {
    LandmarkSet set;
    set.points["pronasale"] = {1, 2, 3};
    set.points["pogonion"] = {4, 5, 6};
    set.curves["mouth_line"] = {{0, 0, 0}, {1, 0, 0}};
    set.trust["pronasale"] = {Origin::Found, 4.5, 1.25, 0.5, false, true, false};
    set.trust["mouth_line"] = {Origin::Mirrored, 0, 0, 0, true, false, true};
    const auto back = parse_landmarks(landmarks_text(set), "x");
    REQUIRE(back);
    REQUIRE(back->set == set);
    REQUIRE(unsure(back->set.trust_of("pronasale")));
    REQUIRE(trust_weight(back->set.trust_of("pronasale")) < 0.3);
    REQUIRE(trust_weight(back->set.trust_of("pogonion")) == 1);
    SECTION("sides are swapped with it") { REQUIRE(swap_sides(swap_sides(set)) == set); }
    SECTION("a damaged entry is named") {
        const auto bad = parse_landmarks(
            R"({"format":"veldstone-landmarks","version":1,"points":{"pogonion":[0,0,0]},"trust":{"pogonion":{"origin":"moon"}}})",
            "marks.json");
        REQUIRE_FALSE(bad);
        CHECK(bad.error().message.find("pogonion") != std::string::npos);
        REQUIRE_FALSE(parse_landmarks(
            R"({"format":"veldstone-landmarks","version":1,"points":{"pogonion":[0,0,0]},"trust":{"pogonion":{"origin":"found","expected_mm":-1}}})",
            "x"));
    }
}

TEST_CASE("Marks: sets grow from ten points to the whole body") {
    std::size_t last = 0;
    for (const PointSet set : kPointSets) {
        const std::size_t count = kit_marks(set).points.size();
        REQUIRE(count > last);
        last = count;
    }
    REQUIRE(kit_marks(PointSet::Minimal).points.size() == 10);
    REQUIRE(last == demo_kit()->landmarks.size());
    REQUIRE(other_side("my spot_l") == "my spot_r");
    REQUIRE(other_side("pronasale").empty());
}

TEST_CASE("Marks: nothing is wrong with good points in any place and size") {
    LandmarkSet set = kit_marks(PointSet::Head);
    const Similarity elsewhere{0.1, Eigen::AngleAxisd(1.1, Vec3(1, 2, 3).normalized()).toRotationMatrix(),
                               Vec3(5, -3, 2)};
    for (auto& [name, p] : set.points) p = elsewhere(p + Vec3(std::sin(p.x()), std::cos(p.y()), 0));
    REQUIRE(find_suspicions(base_places(), set).empty());
    REQUIRE(off_shape(base_places(), set).size() == set.points.size());
    SECTION("a figure in another pose is no suspicion, an exchanged pair of its points is") {
        const auto bram = read_landmarks(demo("subjects/bram/bram_landmarks.json"));
        REQUIRE(find_suspicions(base_places(), bram->set).empty());
        LandmarkSet wrong = bram->set;
        std::swap(wrong.points["patella_l"], wrong.points["patella_r"]);
        const auto found = find_suspicions(base_places(), wrong);
        REQUIRE(found.size() == 1);
        CHECK(found[0].a == "patella_l");
        CHECK(found[0].b == "patella_r");
    }
    SECTION("nor is the demo's head, whose ears and neck are her own") {
        REQUIRE(find_suspicions(base_places(), read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"))->set)
                    .empty());
    }
    SECTION("below five points nothing is judged") {
        while (set.points.size() > 4) set.points.erase(set.points.begin());
        REQUIRE(off_shape(base_places(), set).empty());
    }
}

TEST_CASE("Marks: swapped sides, exchanged points and a stray one are named, and one repair puts each right") {
    const LandmarkSet good = kit_marks(PointSet::Head);
    LandmarkSet set = good;
    SECTION("sides") {
        set = swap_sides(good);
        const auto found = find_suspicions(base_places(), set);
        REQUIRE(found.size() == 1);
        REQUIRE(found[0].kind == SuspicionKind::SidesSwapped);
        REQUIRE(repaired(set, found[0]).points == good.points);
    }
    SECTION("two points") {
        std::swap(set.points["exocanthion_l"], set.points["cheilion_l"]);
        const auto found = find_suspicions(base_places(), set);
        REQUIRE(found.size() == 1);
        REQUIRE(found[0].kind == SuspicionKind::Exchanged);
        REQUIRE(std::set{found[0].a, found[0].b} == std::set<std::string>{"exocanthion_l", "cheilion_l"});
        REQUIRE(repaired(set, found[0]).points == good.points);
    }
    SECTION("one far off") {
        set.points["alare_r"] += Vec3(-25, 10, 5);
        const auto found = find_suspicions(base_places(), set);
        REQUIRE(found.size() == 1);
        REQUIRE(found[0].kind == SuspicionKind::FarOff);
        REQUIRE(found[0].a == "alare_r");
        CHECK((repaired(set, found[0]).points["alare_r"] - good.points.at("alare_r")).norm() < 4);
        CHECK(unsure(repaired(set, found[0]).trust_of("alare_r")));
    }
}

TEST_CASE("Marks: a click snaps to what the definition names") {
    SECTION("the most forward place") {
        const Field f(
            [](double x, double y) { return 6 * std::exp(-0.02 * ((x - 2) * (x - 2) + (y - 1) * (y - 1))); });
        const Vec3 at =
            snap(f.surface, {SnapKind::Extreme, Vec3::UnitZ(), ""}, f.query->closest({0, 0, 6}, 50).position);
        CHECK((at.head<2>() - Vec2(2, 1)).norm() < 0.4);
        CHECK(f.query->closest(at, 1).distance < 1e-6);
    }
    SECTION("a ridge and a valley") {
        const Field ridge([](double x, double) { return -0.8 * std::abs(x - 1.5); }),
            valley([](double x, double) { return 0.8 * std::abs(x - 1.5); });
        CHECK(std::abs(snap(ridge.surface, {SnapKind::Ridge, {}, ""}, {0, 0, -1.2}).x() - 1.5) < 0.3);
        CHECK(std::abs(snap(valley.surface, {SnapKind::Valley, {}, ""}, {0, 0, 1.2}).x() - 1.5) < 0.3);
    }
    SECTION("the edge of a colour") {
        Field flat([](double, double) { return 0.0; });
        flat.surface.lightness = [](const SurfaceHit& hit) { return 1 / (1 + std::exp(-3 * (hit.position.x() - 2))); };
        CHECK(std::abs(snap(flat.surface, {SnapKind::ColourEdge, {}, ""}, {0.5, 0, 0}).x() - 2) < 0.3);
    }
    SECTION("on an even place it stays, and never goes farther than the reach") {
        const Field flat([](double, double) { return 0.0; }), slope([](double x, double) { return 0.2 * x; });
        CHECK((snap(flat.surface, {SnapKind::Ridge, {}, ""}, {1, 1, 0}) - Vec3(1, 1, 0)).norm() < 1e-9);
        CHECK((snap(slope.surface, {SnapKind::Extreme, Vec3::UnitZ(), ""}, {0, 0, 0}, 3) - Vec3(0, 0, 0)).norm() <
              3.2);
    }
    SECTION("every rule of the scheme has words, and sides point outwards") {
        for (const SchemePoint& p : landmark_scheme().points) {
            const SnapRule rule = snap_rule(p.name);
            if (rule.kind != SnapKind::None) CHECK_FALSE(rule.says.empty());
        }
        CHECK(snap_rule("alare_l").direction.x() == 1);
        CHECK(snap_rule("alare_r").direction.x() == -1);
    }
}

TEST_CASE("Marks: a curve of few clicks hugs the ridge between them") {
    const auto crest = [](double x) { return 2 * std::sin(x / 5); };
    const Field f([&](double x, double y) { return 3 * std::exp(-0.5 * std::pow(y - crest(x), 2)); });
    const auto place = [&](double x) { return f.query->closest({x, crest(x), 3}, 5).position; };
    const auto line = trace_curve(f.surface, {SnapKind::Ridge, {}, ""}, {place(-15), place(0), place(15)}, 40);
    REQUIRE(line);
    REQUIRE(line->size() > 30);
    for (const Vec3& p : *line) CHECK(std::abs(p.y() - crest(p.x())) < 0.7);
    CHECK((line->front() - place(-15)).norm() < 1e-9);
    CHECK((line->back() - place(15)).norm() < 1e-9);
    SECTION("its handles are its ends and even steps between") {
        const Points handles = handles_of(*line, 5);
        REQUIRE(handles.size() == 5);
        CHECK((handles.front() - line->front()).norm() < 1e-9);
        CHECK((handles.back() - line->back()).norm() < 1e-9);
    }
    REQUIRE_FALSE(trace_curve(f.surface, {}, {Vec3(0, 0, 0)}, 10));
}

TEST_CASE("Marks: a nudge goes as far as it was asked, along the surface") {
    const Field f([](double x, double) { return 0.5 * x; });
    const Vec3 from = f.query->closest({0, 0, 0}, 1).position,
               to = nudge(f.surface, from, Vec3::UnitX(), Vec3::UnitY(), 2, 0);
    CHECK((to - from).norm() == Approx(2).margin(0.05));
    CHECK(f.query->closest(to, 1).distance < 1e-6);
}

TEST_CASE("Marks: the other side is found through the subject's own plane") {
    LandmarkSet set = kit_marks(PointSet::Head);
    const Similarity tilted{0.1, Eigen::AngleAxisd(0.4, Vec3(1, 1, 0.3).normalized()).toRotationMatrix(),
                            Vec3(3, 1, 2)};
    for (auto& [name, p] : set.points) p = tilted(p);
    // a placement that is some degrees off must not matter: the plane comes from the points
    const Similarity off{
        10, (Eigen::AngleAxisd(0.1, Vec3::UnitY()).toRotationMatrix() * tilted.rotation.transpose()).eval(),
        Vec3(1, 2, 3)};
    const auto mirror = own_mirror(set, off);
    REQUIRE(mirror);
    CHECK((mirrored(set.points.at("gonion_l"), *mirror, off) - set.points.at("gonion_r")).norm() < 0.1);
    set.points.clear();
    REQUIRE_FALSE(own_mirror(set, off));
}

TEST_CASE("Marks: they are copied to another scan of the same subject") {
    const auto kit = demo_kit();
    const SurfaceQuery surface(kit->mesh.positions, kit->triangulation.triangles);
    LandmarkSet from = kit_marks(PointSet::Face), into;
    const Similarity moved{1, Eigen::AngleAxisd(0.2, Vec3::UnitX()).toRotationMatrix(), Vec3(10, 20, 30)};
    for (auto& [name, p] : from.points) p = moved(p);
    for (const char* name : {"pronasale", "exocanthion_l", "exocanthion_r", "pogonion"})
        into.points[name] = kit_marks(PointSet::Face).points.at(name);
    const int put = copy_marks({&from, {}, {}, &surface}, into);
    REQUIRE(put == static_cast<int>(from.points.size()) - 4);
    for (const auto& [name, p] : kit_marks(PointSet::Face).points) CHECK((into.points.at(name) - p).norm() < 0.5);
    CHECK(into.trust_of("cheilion_l").origin == Origin::Copied);
}

TEST_CASE("Smooth map: affine maps are met exactly, one wrong pair does not bend it") {
    Points from, to;
    const Mat3 a = Eigen::AngleAxisd(0.3, Vec3::UnitZ()).toRotationMatrix() * 1.1;
    for (int i = 0; i < 60; ++i) {
        from.emplace_back(50 * std::sin(i), 40 * std::cos(2 * i), 30 * std::sin(3 * i + 1));
        to.push_back(a * from.back() + Vec3(5, 6, 7));
    }
    const Vec3 asked(10, 5, -8), right = a * asked + Vec3(5, 6, 7);
    CHECK((SmoothMap(from, to)(asked) - right).norm() < 1e-6);
    to[20] += Vec3(40, 0, 0);
    const SmoothMap bent(from, to);
    CHECK((bent(asked) - right).norm() < 0.6);
    CHECK(bent.residuals()[20] > 30);
    CHECK((SmoothMap({Vec3(0, 0, 0), Vec3(1, 0, 0)}, {Vec3(2, 0, 0), Vec3(3, 0, 0)})(Vec3(0, 1, 0)) - Vec3(2, 1, 0))
              .norm() < 1e-9);
}

TEST_CASE("Photo marks: pixels and size go out and come in") {
    PhotoMarks marks;
    marks.width = 1200, marks.height = 1500;
    marks.points["pronasale"] = {590.5, 760.25};
    marks.curves["mouth_line"] = {{1, 2}, {3, 4}};
    marks.trust["pronasale"] = {Origin::Found, 3, 0, 0, false, false, false};
    const auto back = parse_photo_marks(photo_marks_text(marks), "x");
    REQUIRE(back);
    REQUIRE(*back == marks);
    const auto plain = parse_photo_marks(landmarks_text({}), "scan.json");
    REQUIRE_FALSE(plain);
    CHECK(plain.error().message.find("scan.json") != std::string::npos);
}

TEST_CASE("EXIF: orientation and focal length are read, damage is taken as not said") {
    // little-endian TIFF: orientation 6, and a sub-directory with the focal length on film
    const std::vector<std::uint8_t> tiff = {'I', 'I', 42, 0,    8,    0, 0, 0, 2, 0, 0x12, 1,  3, 0, 1, 0, 0, 0, 6,
                                            0,   0,   0,  0x69, 0x87, 4, 0, 1, 0, 0, 0,    38, 0, 0, 0, 0, 0, 0, 0,
                                            1,   0,   5,  0xa4, 3,    0, 1, 0, 0, 0, 85,   0,  0, 0, 0, 0, 0, 0};
    std::vector<std::uint8_t> jpeg = {0xff, 0xd8, 0xff, 0xe1, 0, static_cast<std::uint8_t>(tiff.size() + 8),
                                      'E',  'x',  'i',  'f',  0, 0};
    jpeg.insert(jpeg.end(), tiff.begin(), tiff.end());
    CHECK(read_exif(jpeg).orientation == 6);
    CHECK(read_exif(jpeg).focal_35mm == 85);
    for (std::size_t cut = 0; cut < jpeg.size(); ++cut)
        read_exif({jpeg.begin(), jpeg.begin() + static_cast<std::ptrdiff_t>(cut)});
    for (std::size_t at = 12; at < jpeg.size(); ++at) {
        auto broken = jpeg;
        broken[at] ^= 0xff;
        const int o = read_exif(broken).orientation;
        REQUIRE((o >= 1 && o <= 8));
    }
}

TEST_CASE("Base kit: own points and curves are kept beside it and read with it") {
    Scratch scratch;
    namespace fs = std::filesystem;
    const std::string folder = scratch / "kit";
    fs::create_directory(folder);
    for (const auto& entry : fs::directory_iterator(demo("kit"))) {
        if (entry.path().filename() != "own_landmarks.json")
            fs::create_symlink(fs::absolute(entry.path()), folder + "/" + entry.path().filename().string());
    }
    BaseKit kit = *demo_kit();
    kit.folder = folder;
    auto points = kit.landmarks;
    auto curves = kit.curves;
    points["scar_l"] = {kit.triangulation.triangle_face[500], kit.triangulation.triangles[500], {0.25, 0.25, 0.5}};
    curves["fold"] = {points.at("pronasale"), points.at("pogonion")};
    REQUIRE(write_own_landmarks(kit, points, curves));
    const auto back = read_base_kit(folder);
    REQUIRE(back);
    REQUIRE(back->landmarks.size() == kit.landmarks.size() + 1);
    CHECK((back->landmarks.at("scar_l").at(kit.mesh.positions) - points.at("scar_l").at(kit.mesh.positions)).norm() <
          1e-6);
    REQUIRE(back->curves.at("fold").size() == 2);
    SECTION("a damaged file is named") {
        std::ofstream(folder + "/own_landmarks.json")
            << R"({"format":"veldstone-kit-landmarks","points":{"x":99999999}})";
        const auto bad = read_base_kit(folder);
        REQUIRE_FALSE(bad);
        CHECK(bad.error().message.find("own_landmarks.json") != std::string::npos);
    }
}
