// Fits of bodies and of everything, what files refuse, folders that cannot be written.
#include <catch2/catch.hpp>

#include <sys/stat.h>

#include "core/base/file.h"
#include "core/fit/fit.h"
#include "core/io/gather.h"
#include "core/io/mesh_write.h"
#include "core/io/ply.h"
#include "core/io/stl.h"
#include "core/kit/kit_surface.h"
#include "core/project/sources.h"
#include "core/project/store.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

struct Body {
    Mesh scan;
    LandmarkSet marks;
};
const Body& bram() {
    static const Body body = [] {
        Body b;
        b.scan = std::move(read_mesh(demo("subjects/bram/bram_scan.ply"))->mesh);
        b.marks = std::move(read_landmarks(demo("subjects/bram/bram_landmarks.json"))->set);
        return b;
    }();
    return body;
}

FitSettings quick(FitPart part) {
    FitSettings s;
    s.part = part, s.levels = 4, s.iterations = 1;
    return s;
}

}  // namespace

TEST_CASE("Fit: a body is fitted and its head left alone, or the other way round, or both", "[accuracy]") {
    const BaseKit& kit = *demo_kit();
    const std::vector<double> fade = head_fade(kit, FitSettings().neck_band_mm);
    const auto moved = [&](const FitResult& fit, bool head) {
        double most = 0;
        for (Index v : kit.part("skin")->vertices) {
            if ((fade[v] >= 1) == head && (head || fade[v] == 0))
                most = std::max(most, (fit.positions[v] - kit.mesh.positions[v]).norm());
        }
        return most;
    };
    SECTION("body") {
        const auto fit = run_fit({&kit, {}, &bram().scan, bram().marks, Unit::Centimetre, quick(FitPart::Body)}, {});
        REQUIRE(fit);
        CHECK(moved(*fit, true) == 0);
        CHECK(moved(*fit, false) > 30);
        CHECK(fit->figures.flipped_faces == 0);
        CHECK(fit->figures.surface.median < 2);
        // up and unit were found although the file has Z up and centimetres
        CHECK(fit->placement.source_to_kit.scale == Approx(10).epsilon(0.15));
    }
    SECTION("all") {
        const auto fit = run_fit({&kit, {}, &bram().scan, bram().marks, Unit::Centimetre, quick(FitPart::All)}, {});
        REQUIRE(fit);
        CHECK(moved(*fit, true) > 2);
        CHECK(moved(*fit, false) > 30);
        for (const Vec3& p : fit->positions) REQUIRE(p.allFinite());
    }
    SECTION("head, from the scan of the whole body") {
        const auto fit = run_fit({&kit, {}, &bram().scan, bram().marks, Unit::Centimetre, quick(FitPart::Head)}, {});
        REQUIRE(fit);
        CHECK(moved(*fit, false) == 0);
        CHECK(moved(*fit, true) > 2);
    }
}

TEST_CASE("Fit: ignored areas attract nothing, all else is fitted as before") {
    const BaseKit& kit = *demo_kit();
    VertexMask ignored(bram().scan.positions.size(), 0);
    const Vec3 nose = bram().marks.points.at("pronasale");
    for (std::size_t v = 0; v < ignored.size(); ++v) ignored[v] = (bram().scan.positions[v] - nose).norm() < 5;  // cm
    FitInput input{&kit, {}, &bram().scan, bram().marks, Unit::Centimetre, quick(FitPart::Head)};
    const auto with = run_fit(input, {});
    input.ignored = &ignored;
    const auto without = run_fit(input, {});
    REQUIRE(with);
    REQUIRE(without);
    const Index tip = kit.landmarks.at("pronasale").vertices[0];
    REQUIRE_FALSE(std::isnan(with->distances[tip]));
    REQUIRE(std::isnan(without->distances[tip]));
    REQUIRE(without->figures.coverage < with->figures.coverage);
    SECTION("nothing left to match is refused") {
        std::fill(ignored.begin(), ignored.end(), 1);
        REQUIRE(run_fit(input, {}).error().code == ErrorCode::DegenerateInput);
    }
}

TEST_CASE("PLY: lists in odd places, every number type, lines of other systems") {
    const std::string types =
        "ply\r\nformat ascii 1.0\r\nelement vertex 3\r\nproperty double x\r\nproperty int16 y\r\nproperty uint8 "
        "z\r\nproperty list uchar int tags\r\n"
        "element face 1\r\nproperty list int uint vertex_indices\r\nend_header\r\n0.5 -7 3 2 9 9\r\n1 0 0 0\r\n0 1 0 "
        "1 4\r\n3 0 1 2\r\n";
    const auto f = parse_ply(types, "t.ply");
    REQUIRE(f);
    REQUIRE(f->mesh.positions[0] == Vec3(0.5, -7, 3));
    REQUIRE(f->mesh.face_count() == 1);
    const auto why = [](const std::string& header) {
        const auto r = parse_ply("ply\nformat ascii 1.0\n" + header + "end_header\n1 2 3\n", "t.ply");
        return r ? std::string() : r.error().message;
    };
    CHECK(why("element vertex one\n").find("count") != std::string::npos);
    CHECK(why("property float x\n").find("before any element") != std::string::npos);
    CHECK(why("element vertex 1\nproperty quaternion x\n").find("quaternion") != std::string::npos);
    CHECK(why("element vertex 1\nproperty float x\nproperty float y\n").find("no x, y and z") != std::string::npos);
    CHECK(why("element vertex 9\nproperty float x\nproperty float y\nproperty float z\n").find("t.ply") !=
          std::string::npos);
    CHECK(parse_ply("ply\nelement vertex 0\nend_header\n", "t.ply").error().message.find("no encoding") !=
          std::string::npos);
    CHECK(parse_ply("ply\nformat morse 1.0\nend_header\n", "t.ply").error().message.find("morse") !=
          std::string::npos);
}

TEST_CASE("STL: ascii in any case and layout, sizes that lie") {
    const std::string loose =
        "SOLID x\n  FACET NORMAL 0 0 1\n OUTER LOOP\nVERTEX 0 0 0\n\tVERTEX 1e0 0 0\nVERTEX 0 +1 "
        "0\nENDLOOP\nENDFACET\nENDSOLID\n";
    const auto f = parse_stl(loose, "x.stl");
    REQUIRE(f);
    REQUIRE(f->mesh.face_count() == 1);
    REQUIRE(f->mesh.positions.size() == 3);
    std::string bytes = stl_bytes(sphere(6, 3));
    const auto whole = parse_stl(bytes, "s.stl");
    REQUIRE(whole);
    REQUIRE(whole->mesh.face_count() == sphere(6, 3).face_count());
    REQUIRE(whole->mesh.positions.size() == sphere(6, 3).positions.size());  // corners are joined again
    bytes[80] = static_cast<char>(0xff), bytes[83] = 0x7f;                   // two thousand million triangles
    REQUIRE(parse_stl(bytes, "s.stl").error().message.find("s.stl") != std::string::npos);
    REQUIRE_FALSE(parse_stl("", "s.stl"));
    REQUIRE_FALSE(read_mesh(Scratch().write("empty.stl", "solid nothing\nendsolid\n")));
}

TEST_CASE("Places: a folder that cannot be written leaves everything as it was") {
    if (::geteuid() == 0) {
        // root may write anywhere that is a real folder; /proc refuses even root
        const std::string nowhere = "/proc/self/none";
        CHECK(write_mesh(nowhere + "/m.obj", cube(), 1).error().code == ErrorCode::Io);
        CHECK(write_mesh(nowhere + "/m.glb", cube(), 1).error().message.find(nowhere) != std::string::npos);
        CHECK(save_project(nowhere + "/p.veldstone", new_project(demo_kit())).error().code == ErrorCode::Io);
        CHECK(write_file(nowhere + "/l.json", landmarks_text({})).error().code == ErrorCode::Io);
        return;
    }
    Scratch s;
    s.write("m.obj", "old");
    ::chmod(s.folder().c_str(), 0555);
    CHECK(write_mesh(s / "m.obj", cube(), 1).error().code == ErrorCode::Io);
    CHECK(s.read("m.obj") == "old");
    ::chmod(s.folder().c_str(), 0755);
}

TEST_CASE("Places: a full disk keeps the old file, whatever is written") {
    Scratch s;
    const Mesh ball = sphere(60, 100);
    for (const char* name : {"m.obj", "m.ply", "m.stl", "m.glb"}) {
        s.write(name, "the old file");
        const std::string path = s / name;
        const int code = with_file_limit(2000, [&] { return write_mesh(path, ball, 1) ? 0 : 7; });
        INFO(name);
        REQUIRE(code == 7);
        REQUIRE(s.read(name) == "the old file");
    }
    REQUIRE(std::distance(std::filesystem::directory_iterator(s.folder()), {}) == 4);  // no half files either
}

TEST_CASE("Project file: what was tidied is checked when it is read") {
    Scratch s;
    ProjectState state = new_project(demo_kit());
    GatheredMesh mesh{"ball.obj", "ball.obj", {sphere(12, 120), {}}};
    Source source = make_source(std::move(mesh), *demo_kit());
    source.ignored = std::make_shared<VertexMask>(VertexMask(5, 1));  // not one per vertex
    state.subjects.push_back({"S", {source}, {}});
    REQUIRE(save_project(s / "p.veldstone", state));
    REQUIRE(load_project(s / "p.veldstone").error().message.find("ignored") != std::string::npos);
    state.current()->sources[0].ignored = nullptr;
    state.current()->sources[0].upright.scale = 0;
    REQUIRE(save_project(s / "p.veldstone", state));
    REQUIRE(load_project(s / "p.veldstone").error().message.find("placement") != std::string::npos);
}
