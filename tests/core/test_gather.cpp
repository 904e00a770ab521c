// What people drop: folders, archives, other formats, tiles; how it stands; the inbox.
#include <catch2/catch.hpp>

#include "tests/core/gather_support.h"

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
