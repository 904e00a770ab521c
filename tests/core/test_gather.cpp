// What people drop: folders, archives, other formats, tiles; how it stands; the inbox.
#include <catch2/catch.hpp>

#include <zip.h>
#include <thread>

#include "core/io/gather.h"
#include "core/io/general_import.h"
#include "core/io/mesh_write.h"
#include "core/io/surface_colour.h"
#include "core/linalg/fit_similarity.h"
#include "core/project/inbox.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "core/tidy/straighten.h"
#include "core/tidy/subject_kind.h"
#include "core/tidy/tools.h"
#include "demo/standins/made_up_person.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

void write_zip(const std::string& path, const std::vector<std::pair<std::string, std::string>>& files) {
    int code = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_CREATE | ZIP_TRUNCATE, &code);
    REQUIRE(zip);
    for (const auto& [name, bytes] : files)
        REQUIRE(zip_file_add(zip, name.c_str(), zip_source_buffer(zip, bytes.data(), bytes.size(), 0), 0) >= 0);
    REQUIRE(zip_close(zip) == 0);
}

std::string png_of(std::uint8_t red) {
    Pixels p{2, 2, {}};
    for (int i = 0; i < 4; ++i) p.rgba.insert(p.rgba.end(), {red, 10, 20, 255});
    const auto bytes = encode_png(p);
    return {bytes.begin(), bytes.end()};
}

const char* kTwoTiles =
    "mtllib two.mtl\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0.1 0.1\nvt 0.9 0.1\nvt 0.9 0.9\nvt 1.1 0.1\nvt 1.9 "
    "0.1\nvt 1.9 0.9\n"
    "usemtl skin\nf 1/1 2/2 3/3\nf 1/4 3/5 4/6\n";

double degrees_between(const Vec3& a, const Vec3& b) {
    return std::acos(std::clamp(a.normalized().dot(b.normalized()), -1.0, 1.0)) * 180 / M_PI;
}

}  // namespace

TEST_CASE("Gather: folders and archives bring all their meshes, textures included") {
    Scratch s;
    std::filesystem::create_directories(s / "drop/inner");
    s.write("drop/two.obj", kTwoTiles);
    s.write("drop/two.mtl", "newmtl skin\nmap_Kd skin.png\n");
    s.write("drop/skin.png", png_of(200));
    s.write("drop/inner/bad.ply", "ply\n");
    s.write("drop/readme.txt", "hello");
    const Gathered folder = gather(s / "drop");
    REQUIRE(folder.meshes.size() == 1);
    REQUIRE(folder.meshes[0].name == "two.obj");
    REQUIRE(folder.meshes[0].file.mesh.images.size() == 1);
    REQUIRE(folder.errors.size() == 1);
    REQUIRE(folder.errors[0].message.find("bad.ply") != std::string::npos);

    write_zip(s / "sent.zip", {{"a/two.obj", kTwoTiles},
                               {"a/two.mtl", "newmtl skin\nmap_Kd skin.png\n"},
                               {"a/skin.png", png_of(90)},
                               {"../../evil.obj", "v 0 0 0\n"}});
    const Gathered zip = gather(s / "sent.zip");
    REQUIRE(zip.errors.empty());
    REQUIRE(zip.meshes.size() == 1);
    REQUIRE(zip.meshes[0].name == "sent.zip/a/two.obj");
    REQUIRE(zip.meshes[0].path == s / "sent.zip");
    REQUIRE(zip.meshes[0].file.mesh.images.size() == 1);
    REQUIRE_FALSE(std::filesystem::exists(s / "../evil.obj"));

    const auto why = [](const Gathered& g) { return g.errors.empty() ? "" : g.errors.front().message; };
    REQUIRE(why(gather(s / "none.zip")).find("not there") != std::string::npos);
    REQUIRE(why(gather(s.write("no.zip", "PK no"))).find("no.zip") != std::string::npos);
    write_zip(s / "empty.zip", {{"readme.txt", "hello"}});
    REQUIRE(why(gather(s / "empty.zip")).find("no mesh") != std::string::npos);
    Progress stop;
    stop.cancelled = [] { return true; };
    REQUIRE(gather(s / "sent.zip", stop).errors.front().code == ErrorCode::Cancelled);
    SECTION("damaged archives are read or refused") {
        const std::string good = s.read("sent.zip");
        std::mt19937 random(2);
        for (int i = 0; i < 2000; ++i) {
            std::string bad = good;
            for (int k = 0; k < 4; ++k) bad[random() % bad.size()] = static_cast<char>(random());
            if (i % 4 == 0) bad.resize(random() % bad.size());
            const Gathered g = gather(s.write("bad.zip", bad));
            REQUIRE(g.meshes.size() + g.errors.size() > 0);
        }
    }
}

TEST_CASE("Gather: UDIM tiles each bring their picture") {
    Scratch s;
    s.write("two.obj", kTwoTiles);
    s.write("two.mtl", "newmtl skin\nmap_Kd skin.<UDIM>.png\n");
    s.write("skin.1001.png", png_of(1));
    s.write("skin.1002.png", png_of(2));
    const auto file = read_mesh(s / "two.obj");
    REQUIRE(file);
    const Mesh& m = file->mesh;
    REQUIRE(m.materials[0].tiles == std::vector<std::pair<int, int>>{{1001, 0}, {1002, 1}});
    REQUIRE(image_of(m.materials[0], Vec2(1.5, 0.5)) == 1);
    REQUIRE(image_of(m.materials[0], Vec2(0.5, 3.5)) == -1);
    const Mesh plain = tiles_as_materials(m);
    REQUIRE(plain.materials[plain.face_material[0]].image == 0);
    REQUIRE(plain.materials[plain.face_material[1]].image == 1);
    REQUIRE(plain.corner_uv == m.corner_uv);
    SECTION("and go out again") {
        REQUIRE(write_mesh(s / "copy.obj", m, 1));
        const auto back = read_mesh(s / "copy.obj");
        REQUIRE(back->mesh.materials[0].tiles == m.materials[0].tiles);
        REQUIRE(back->mesh.images[1].bytes == m.images[1].bytes);
        REQUIRE(write_mesh(s / "copy.glb", m, 1));
        REQUIRE(read_mesh(s / "copy.glb")->mesh.images.size() == 2);
    }
}

TEST_CASE("Gather: other formats come by way of a general importer") {
    Scratch s;
    const auto off = read_mesh(s.write("t.off", "OFF\n4 2 0\n0 0 0\n1 0 0\n1 1 0\n0 1 0\n3 0 1 2\n3 0 2 3\n"));
    REQUIRE(off);
    REQUIRE(off->mesh.face_count() == 2);
    REQUIRE(off->mesh.positions.size() == 4);
    REQUIRE_FALSE(off->notes.empty());
    REQUIRE(read_mesh(s.write("bad.fbx", "nothing")).error().message.find("bad.fbx") != std::string::npos);
    REQUIRE(read_mesh(s.write("x.txt", "nothing")).error().code == ErrorCode::Unsupported);
}

TEST_CASE("Write: a mesh goes out whole in every format, and comes back") {
    Scratch s;
    Mesh m = decorated_cube();
    m.positions[3] = Vec3(1, 1, 0);
    const std::string png = png_of(7);
    m.images.push_back({"folder/skin.png", "image/png", {png.begin(), png.end()}});
    m.materials[0].image = 0;
    for (const char* name : {"c.obj", "c.ply", "c.stl", "c.glb"}) {
        INFO(name);
        REQUIRE(write_mesh(s / name, m, 1));
        const auto back = read_mesh(s / name);
        REQUIRE(back);
        REQUIRE(bounding_box(back->mesh.positions).high == Vec3(1, 1, 1));
        REQUIRE(back->mesh.images.size() == (std::string(name) == "c.obj" || std::string(name) == "c.glb" ? 1u : 0u));
    }
    REQUIRE(std::filesystem::exists(s / "skin.png"));
    SECTION("another mesh's texture of the same name is left alone") {
        s.write("skin.png", "another picture");
        REQUIRE(write_mesh(s / "d.obj", m, 1));
        REQUIRE(s.read("skin.png") == "another picture");
        REQUIRE(read_mesh(s / "d.obj")->mesh.images[0].bytes == m.images[0].bytes);
        REQUIRE(write_mesh(s / "d.obj", m, 1));  // once more: its own texture is found again
        REQUIRE_FALSE(std::filesystem::exists(s / "skin_3.png"));
    }
    REQUIRE(write_mesh(s / "c.doc", m, 1).error().code == ErrorCode::Unsupported);
    REQUIRE(write_mesh("/proc/none/c.obj", m, 1).error().code == ErrorCode::Io);
}

TEST_CASE("Stand: unit and axis are guessed with a reason") {
    Mesh figure = sphere(10, 1);
    const auto guess = [&](const Vec3& size, const char* path) {
        Mesh m = figure;
        for (Vec3& p : m.positions) p = 0.5 * p.cwiseProduct(size);
        return guess_frame(m, path, {});
    };
    REQUIRE(guess({0.6, 1.75, 0.4}, "a.obj").unit == Unit::Metre);
    REQUIRE(guess({60, 40, 175}, "a.obj").unit == Unit::Centimetre);
    REQUIRE(guess({60, 40, 175}, "a.obj").up == UpAxis::PlusZ);
    REQUIRE(guess({600, 1750, 400}, "a.obj").unit == Unit::Millimetre);
    REQUIRE(guess({300, 420, 300}, "a.obj").unit == Unit::Millimetre);
    REQUIRE(guess({0.3, 0.42, 0.3}, "a.ply").unit == Unit::Metre);
    REQUIRE(guess({30, 42, 30}, "a.ply").unit == Unit::Centimetre);
    REQUIRE(guess({30, 42, 30}, "a.glb").unit == Unit::Metre);
    REQUIRE(guess({30, 42, 30}, "a.ply").up == UpAxis::PlusY);
    REQUIRE(guess({50, 59, 36}, "a.ply").unit == Unit::Centimetre);
    REQUIRE(guess({20, 69, 12}, "a.obj").unit == Unit::Inch);
    REQUIRE(guess({86, 76, 184}, "a.ply").unit == Unit::Centimetre);
    REQUIRE(guess({1.75, 1.75, 0.3}, "a.obj").unit == Unit::Metre);
    LandmarkSet marks;
    marks.unit = Unit::Inch;
    marks.points = {{"gnathion", {0, 0, 1}}, {"sellion", {0.1, 0, -4}}};
    const FrameGuess by_marks = guess_frame(figure, "a.obj", marks);
    REQUIRE(by_marks.unit == Unit::Inch);
    REQUIRE(by_marks.up == UpAxis::MinusZ);
    REQUIRE_FALSE(by_marks.unit_reason.empty());
}

TEST_CASE("Stand: proportions tell a figure, a bust and a head apart, in any unit and along any axis") {
    const auto kind = [](Points p, const Mat3& turn, double scale) {
        for (Vec3& x : p) x = scale * (turn * x);
        return guess_subject(p);
    };
    const BaseKit& kit = *demo_kit();
    Points figure = kit.mesh.positions, head, bust;
    for (const Vec3& p : figure) {
        if (p.y() > 1460) head.push_back(p);
        if (p.y() > 1250 && std::abs(p.x()) < 240) bust.push_back(p);
    }
    const Mesh bram = std::move(gather(demo("subjects/bram/bram_scan.ply")).meshes.front().file.mesh);
    const Mesh ottoline = std::move(gather(demo("subjects/ottoline/ottoline_scan.glb")).meshes.front().file.mesh);
    for (const UpAxis up : {UpAxis::PlusY, UpAxis::PlusZ, UpAxis::MinusX}) {
        const Mat3 turn = rotation_to_y_up(up).transpose();
        for (const double scale : {1.0, 0.001, 1 / 304.8, 7.3}) {
            CHECK(kind(figure, turn, scale).kind == SubjectKind::Figure);
            CHECK(kind(bram.positions, turn, scale).kind == SubjectKind::Figure);
            CHECK(kind(head, turn, scale).kind == SubjectKind::Head);
            CHECK(kind(bust, turn, scale).kind != SubjectKind::Figure);
            CHECK(kind(ottoline.positions, turn, scale).kind != SubjectKind::Figure);
        }
    }
    // a figure in feet or decimetres has no size that a head could not have: its form tells
    for (const Unit unit :
         {Unit::Foot, Unit::Decimetre, Unit::Inch, Unit::Centimetre, Unit::Metre, Unit::Millimetre}) {
        Mesh mesh = kit.mesh;
        for (Vec3& p : mesh.positions) p /= millimetres(unit);
        const FrameGuess guess = guess_frame(mesh, "figure.obj", {});
        INFO(unit_name(unit) << ": " << guess.unit_reason);
        CHECK(guess.unit == unit);
        CHECK(guess.unit_reason.find("figure") != std::string::npos);
        // and is stood on the floor
        CHECK(bounding_box(upright_copy(mesh, rough_upright(mesh, guess.unit, guess.up, 1740)).positions).low.y() ==
              Approx(0).margin(1e-6));
    }
    // a box of height 1, as some programs normalise everything
    Mesh one = kit.mesh;
    for (Vec3& p : one.positions) p /= 1740;
    CHECK(guess_frame(one, "one.obj", {}).unit == Unit::Metre);
    CHECK(is_figure(one.positions, 1000));
}

TEST_CASE("Stand: hats, masks, large heads and cloaks are told apart as well") {
    const auto body = [](std::initializer_list<std::array<Vec3, 2>> parts) {  // ellipsoids: where, how large
        Mesh out;
        for (const auto& [at, radii] : parts) {
            Points p = sphere(24, 1).positions;
            for (Vec3& x : p) out.positions.push_back(at + x.cwiseProduct(radii));
        }
        return out;
    };
    const std::array<Vec3, 2> head{Vec3(0, 150, 0), Vec3(78, 120, 100)}, neck{Vec3(0, 30, -10), Vec3(55, 60, 55)};
    struct Case {
        const char* what;
        Mesh mesh;  // mm, Y up
        bool figure;
    };
    const Case cases[] = {
        {"a head in a wide hat",
         body({head, neck, {Vec3(0, 240, 0), Vec3(210, 12, 210)}, {Vec3(0, 280, 0), Vec3(85, 60, 100)}}), false},
        {"a head in a pointed hat",
         body({head, neck, {Vec3(0, 240, 0), Vec3(160, 12, 160)}, {Vec3(0, 400, 0), Vec3(70, 180, 80)}}), false},
        {"a head with horns",
         body({head, neck, {Vec3(110, 280, 0), Vec3(14, 90, 14)}, {Vec3(-110, 280, 0), Vec3(14, 90, 14)}}), false},
        {"a head with long hair", body({head, neck, {Vec3(0, 60, -60), Vec3(110, 230, 60)}}), false},
        {"a face like a mask", body({{Vec3(0, 150, 0), Vec3(78, 115, 34)}, {Vec3(0, 140, 34), Vec3(16, 30, 22)}}),
         false},
        {"a bust", body({head, neck, {Vec3(0, -110, -10), Vec3(230, 110, 110)}}), false},
        {"a child with a large head, arms out",
         body({{Vec3(0, 1000, 0), Vec3(180, 200, 180)},
               {Vec3(0, 580, 0), Vec3(150, 250, 120)},
               {Vec3(80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(-80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(330, 720, 0), Vec3(250, 45, 45)},
               {Vec3(-330, 720, 0), Vec3(250, 45, 45)}}),
         true},
        {"a child with a large head, arms half down",
         body({{Vec3(0, 1000, 0), Vec3(180, 200, 180)},
               {Vec3(0, 580, 0), Vec3(150, 250, 120)},
               {Vec3(80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(-80, 190, 0), Vec3(60, 190, 80)},
               {Vec3(200, 660, 0), Vec3(130, 45, 45)},
               {Vec3(-200, 660, 0), Vec3(130, 45, 45)},
               {Vec3(350, 540, 0), Vec3(60, 60, 40)},
               {Vec3(-350, 540, 0), Vec3(60, 60, 40)}}),
         true},
        {"a giant in a cloak",
         body({{Vec3(0, 1850, 0), Vec3(90, 130, 110)}, {Vec3(0, 800, -40), Vec3(360, 900, 260)}}), true},
        {"someone seated",
         body({{Vec3(0, 1200, 0), Vec3(78, 120, 100)},
               {Vec3(0, 820, 0), Vec3(200, 300, 130)},
               {Vec3(90, 500, 200), Vec3(80, 80, 260)},
               {Vec3(-90, 500, 200), Vec3(80, 80, 260)},
               {Vec3(90, 240, 420), Vec3(60, 240, 70)},
               {Vec3(-90, 240, 420), Vec3(60, 240, 70)}}),
         true},
    };
    for (const Case& c : cases) {
        for (const Unit unit : {Unit::Millimetre, Unit::Centimetre, Unit::Metre}) {
            Mesh mesh = c.mesh;
            for (Vec3& p : mesh.positions) p /= millimetres(unit);
            const FrameGuess guess = guess_frame(mesh, "any.obj", {});
            INFO(c.what << " in " << unit_name(unit) << ": " << guess.unit_reason);
            CHECK(guess.unit == unit);
            CHECK(is_figure(mesh.positions, millimetres(unit)) == c.figure);
        }
    }
}

TEST_CASE("Stand: made-up heads in any attitude end upright, facing front", "[accuracy]") {
    for (unsigned seed : {3u, 4u, 5u}) {
        SubjectOptions options;
        options.seed = seed;
        const SyntheticSubject s = make_subject(*demo_kit(), options);
        const Similarity rough = rough_upright(s.scan, Unit::Centimetre, UpAxis::PlusY, 1740);
        const auto stood = straighten(s.scan, *demo_kit(), rough, {});
        INFO("seed " << seed);
        REQUIRE(stood);
        // the subject is the kit's head, warped: its own axes are the kit's
        const Mat3 left = stood->to_upright.rotation * s.scan_from_mm.rotation;
        INFO(stood->said);
        CHECK(degrees_between(left * Vec3::UnitX(), Vec3::UnitX()) < 5);
        CHECK(degrees_between(left * Vec3::UnitY(), Vec3::UnitY()) < 8);
        const Vec3 nose = stood->to_upright(s.scan_from_mm(demo_kit()->landmarks.at("pronasale").at(s.truth_mm)));
        CHECK(std::abs(nose.x()) < 4);
    }
    const auto ball = straighten(sphere(20, 120), *demo_kit(), {}, {});
    INFO((ball ? ball->said : ""));
    REQUIRE_FALSE(ball);
}

TEST_CASE("Stand: by picked points, by turning, on the floor") {
    const BaseKit& kit = *demo_kit();
    const auto at = [&](const char* name) { return kit.landmarks.at(name).at(kit.mesh.positions); };
    Similarity away;
    away.scale = 0.1;
    away.rotation = Eigen::AngleAxisd(2.1, Vec3(1, -2, 0.5).normalized()).toRotationMatrix();
    away.translation = Vec3(40, 5, -9);
    const Vec3 right = 0.5 * (at("exocanthion_r") + at("endocanthion_r")),
               left = 0.5 * (at("exocanthion_l") + at("endocanthion_l"));
    Similarity now;
    now.scale = 10;
    const auto stood = straighten_by_face(kit, now, {away(right), away(left), away(at("pronasale"))});
    REQUIRE(stood);
    REQUIRE(((*stood)(away(right)) - right).norm() < 1e-6);
    REQUIRE(((*stood)(away(at("gnathion"))) - at("gnathion")).norm() < 1e-6);
    REQUIRE(straighten_by_face(kit, now, {right, right, right}).error().code == ErrorCode::DegenerateInput);
    const auto level = level_by_floor({}, Vec3(-100, 10, 0), Vec3(100, 30, 5));
    REQUIRE(std::abs((*level)(Vec3(-100, 10, 0)).y()) < 1e-9);
    REQUIRE(std::abs((*level)(Vec3(100, 30, 5)).y()) < 1e-9);
    REQUIRE_FALSE(level_by_floor({}, Vec3(0, 0, 0), Vec3(0, 50, 0)));
    const Similarity quarter = turned({}, Vec3(1, 2, 3), Vec3(0, 90, 0));
    REQUIRE((quarter(Vec3(1, 2, 4)) - Vec3(2, 2, 3)).norm() < 1e-12);
    const Mesh ball = sphere(10, 40);
    const Similarity floored = on_the_floor(ball, moved({}, Vec3(9, 9, 9)));
    Box box;
    for (const Vec3& p : ball.positions) box.add(floored(p));
    REQUIRE(std::abs(box.low.y()) < 1e-9);
    REQUIRE(std::abs(box.centre().x()) < 1e-9);
}

TEST_CASE("Inbox: a scan is offered once all of it has come to rest") {
    Scratch s;
    Inbox inbox(s.folder(), 1000);
    REQUIRE(inbox.look(0).empty());
    s.write("scan.obj", "mtllib scan.mtl\nv 0 0 0\n");
    auto now = inbox.look(100);
    REQUIRE(now.size() == 1);
    REQUIRE_FALSE(now[0].complete);
    REQUIRE(now[0].waiting_for == "'scan.mtl'");
    s.write("scan.obj", "mtllib scan.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n");
    s.write("scan.mtl", "newmtl a\nmap_Kd scan.png\n");
    REQUIRE(inbox.look(1500)[0].waiting_for == "'scan.png'");
    s.write("scan.png", png_of(3));
    REQUIRE_FALSE(inbox.look(2000)[0].complete);
    REQUIRE_FALSE(inbox.look(2900)[0].complete);
    now = inbox.look(3100);
    REQUIRE(now[0].complete);
    inbox.forget(now[0]);
    REQUIRE(inbox.look(9000).empty());
    // replaced: it is offered again
    s.write("scan.png", png_of(3) + "longer");
    REQUIRE(inbox.look(10000).size() == 1);
    SECTION("unfinished transfers and archives wait") {
        s.write("late.obj.part", "v 0 0 0");
        s.write("half.zip", "PK\x03\x04 and no end");
        s.write("half.glb", std::string("glTF\x02\x00\x00\x00\xff\xff\x00\x00", 12));
        (void)inbox.look(20000);
        for (const Delivery& d : inbox.look(30000)) {
            if (d.name.starts_with("half")) CHECK(d.waiting_for == "the rest of the file");
            CHECK(d.name.find("late") == std::string::npos);
        }
    }
    SECTION("photographs come as a set, in a folder of their own") {
        std::filesystem::create_directories(s / "sitting");
        s.write("sitting/a.png", png_of(5));
        (void)inbox.look(40000);
        const auto find = [&](std::int64_t t) {
            for (const Delivery& d : inbox.look(t)) {
                if (d.kind == DeliveryKind::Photos) return d;
            }
            return Delivery{};
        };
        REQUIRE(find(45000).waiting_for == "more pictures");
        s.write("sitting/b.png", png_of(6));
        REQUIRE_FALSE(find(46000).complete);
        const Delivery d = find(50000);
        REQUIRE(d.complete);
        REQUIRE(d.files.size() == 2);
        const auto photos = read_photos(d.name, d.files);
        REQUIRE(photos);
        REQUIRE(photos->photos->size() == 2);
        s.write("sitting/b.png", "no picture");
        REQUIRE(read_photos(d.name, d.files).error().message.find("b.png") != std::string::npos);
    }
}

TEST_CASE("Project: how a source stands, what was done to it and the inbox are kept") {
    Scratch s;
    ProjectState state = new_project(demo_kit());
    GatheredMesh mesh{"ball.obj", s.write("ball.obj", ""), {sphere(20, 120), {}}};
    Source source = make_source(std::move(mesh), *demo_kit());
    for (const TidyStep& step : {TidyStep{Tool::Turn, {{"y", 30}}, {}}, TidyStep{Tool::Ignore, {}, {SelectStep{}}},
                                 TidyStep{Tool::Smooth, {{"rounds", 2}}, {}}}) {
        auto done = run_step(tidy_state(source), step, nullptr);
        REQUIRE(done);
        take_step(source, step, std::move(*done));
    }
    state.subjects.push_back(
        {"Ball",
         {source},
         {},
         {{"sitting", std::make_shared<std::vector<Image>>(std::vector<Image>{{"a.png", "image/png", {1, 2, 3}}})}}});
    state.inbox = s.folder();
    REQUIRE(save_project(s / "p.veldstone", state));
    const auto back = load_project(s / "p.veldstone");
    REQUIRE(back);
    const Source& b = *back->state.source();
    REQUIRE(b.recipe == source.recipe);
    REQUIRE(b.recipe_said == source.recipe_said);
    REQUIRE(*b.ignored == *source.ignored);
    REQUIRE((b.upright.rotation - source.upright.rotation).norm() < 1e-12);
    REQUIRE(b.shown_unit == source.shown_unit);
    REQUIRE(b.unit_reason == source.unit_reason);
    REQUIRE(back->state.inbox == s.folder());
    REQUIRE(back->state.current()->photo_sets[0].photos->front().bytes == std::vector<std::uint8_t>{1, 2, 3});
}

TEST_CASE("Project: a file that was replaced is read again and its steps redone") {
    Scratch s;
    REQUIRE(write_mesh(s / "ball.obj", sphere(20, 120), 1));
    Source source = make_source(std::move(gather(s / "ball.obj").meshes.front()), *demo_kit());
    REQUIRE_FALSE(file_changed(source));
    auto done = run_step(tidy_state(source), {Tool::Cut, {{"y", 1600}}, {}}, nullptr);
    REQUIRE(done);
    take_step(source, {Tool::Cut, {{"y", 1600}}, {}}, std::move(*done));
    source.landmarks.points["pronasale"] = Vec3(1, 2, 3);
    std::this_thread::sleep_for(std::chrono::milliseconds(20));
    REQUIRE(write_mesh(s / "ball.obj", sphere(40, 120), 1));
    REQUIRE(file_changed(source));
    const auto again = redo_recipe(source, *demo_kit(), {});
    REQUIRE(again);
    REQUIRE(again->mesh->face_count() > 2 * source.mesh->face_count());
    REQUIRE(again->recipe == source.recipe);
    REQUIRE(again->landmarks.points.contains("pronasale"));
    REQUIRE_FALSE(file_changed(*again));
    std::filesystem::remove(s / "ball.obj");
    REQUIRE(redo_recipe(source, *demo_kit(), {}).error().message.find("ball.obj") != std::string::npos);
}

TEST_CASE("Surface colour: a texture's, halved when it is large, else the vertices'") {
    Mesh mesh;  // one square, its texture dark on the left and light on the right
    mesh.positions = {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}};
    mesh.corner_vertex = {0, 1, 2, 3};
    mesh.face_start = {0, 4};
    mesh.uvs = {{0, 0}, {1, 0}, {1, 1}, {0, 1}};
    mesh.corner_uv = {0, 1, 2, 3};
    mesh.face_material = {0};
    Material skin;
    skin.image = 0;
    mesh.materials = {skin};
    Pixels px{64, 64, {}};
    for (int i = 0; i < 64 * 64; ++i)
        px.rgba.insert(px.rgba.end(), {static_cast<std::uint8_t>(i % 64 < 32 ? 51 : 204), 102, 0, 255});
    mesh.images = {{"skin.png", "image/png", encode_png(px)}};
    const Triangulation fans = triangulate(mesh);
    for (const int most : {64, 16}) {
        const SurfaceColour colour(mesh, most);
        REQUIRE(colour.any());
        // in the first fan triangle (0, 1, 2), x = b1 + b2
        CHECK((*colour.at(mesh, fans, 0, {0.7, 0.2, 0.1}) - Vec3(0.2, 0.4, 0)).norm() < 0.01);
        CHECK((*colour.at(mesh, fans, 0, {0.3, 0.4, 0.3}) - Vec3(0.8, 0.4, 0)).norm() < 0.01);
    }
    mesh.images[0].bytes.resize(20);
    CHECK_FALSE(SurfaceColour(mesh).any());
    mesh.colours = {{0, 0, 0, 255}, {255, 0, 0, 255}, {255, 0, 0, 255}, {0, 0, 0, 255}};
    CHECK((*SurfaceColour(mesh).at(mesh, fans, 0, {0.5, 0.25, 0.25}) - Vec3(0.5, 0, 0)).norm() < 0.01);
}

TEST_CASE("Gather: an importer is held to what a file of its size may take") {
    Scratch scratch;
    SECTION("60 bytes that promise billions of vertices") {
        const std::string path =
            scratch.write("promise.off", "OFF\n353535235358 353535235358 0\n0 0 0\n1 0 0\n0 1 0\n3 0 1 2\n");
        const auto began = std::chrono::steady_clock::now();
        const auto file = read_mesh(path);
        REQUIRE_FALSE(file);
        CHECK(file.error().code == ErrorCode::Limit);
        CHECK(file.error().message.find("promise.off") != std::string::npos);
        CHECK(std::chrono::steady_clock::now() - began < std::chrono::seconds(30));
    }
    SECTION("what it needs it gets") {
        const std::string path =
            scratch.write("small.off", "OFF\n4 2 0\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n3 0 1 2\n3 1 3 2\n");
        const auto file = read_mesh(path);
        INFO((file ? "" : file.error().message));
        REQUIRE(file);
        CHECK(file->mesh.face_count() == 2);
    }
    SECTION("limits on memory and time end in a clear error") {
        std::string text = "OFF\n60000 0 0\n";
        for (int i = 0; i < 60000; ++i) text += "0.123 0.456 0.789\n";
        const std::string path = scratch.write("many.off", text);
        const auto memory = general_import(path, {}, {1, 0});
        REQUIRE_FALSE(memory);
        CHECK(memory.error().code == ErrorCode::Limit);
        const auto time = general_import(path, {}, {0, 1e-9});
        REQUIRE_FALSE(time);
        CHECK(time.error().code == ErrorCode::Limit);
    }
    SECTION("cancelled in the middle, and a file that is not there") {
        std::string text = "OFF\n60000 0 0\n";
        for (int i = 0; i < 60000; ++i) text += "0.123 0.456 0.789\n";
        Progress stopped;
        stopped.cancelled = [] { return true; };
        CHECK(general_import(scratch.write("many.off", text), stopped).error().code == ErrorCode::Cancelled);
        CHECK(general_import(scratch / "none.off").error().code == ErrorCode::Io);
    }
    SECTION("an importer that is missing is named") {
        setenv("VELDSTONE_IMPORTER", "/nowhere/importer", 1);
        const auto file = read_mesh(scratch.write("a.off", "OFF\n"));
        unsetenv("VELDSTONE_IMPORTER");
        REQUIRE_FALSE(file);
        CHECK(file.error().message.find("/nowhere/importer") != std::string::npos);
    }
    SECTION("an answer that is cut short or no answer at all is refused") {
        MeshFile file{cube(), {"a note"}};
        const std::string whole = import_answer(file);
        REQUIRE(read_import_answer(whole, "x.off"));
        CHECK(read_import_answer(whole, "x.off")->notes == file.notes);
        for (const std::size_t n : {std::size_t{0}, std::size_t{5}, whole.size() / 2, whole.size() - 1})
            CHECK_FALSE(read_import_answer(whole.substr(0, n), "x.off"));
        CHECK(read_import_answer(import_answer(Error{ErrorCode::Limit, "too much"}), "x.off").error().code ==
              ErrorCode::Limit);
    }
}
