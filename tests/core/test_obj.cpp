#include <catch2/catch.hpp>

#include "core/base/file.h"
#include "core/io/obj.h"
#include "tests/support/scratch.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

void require_same(const Mesh& a, const Mesh& b) {
    REQUIRE(a.positions == b.positions);
    REQUIRE(a.face_start == b.face_start);
    REQUIRE(a.corner_vertex == b.corner_vertex);
    REQUIRE(a.uvs == b.uvs);
    REQUIRE(a.corner_uv == b.corner_uv);
    REQUIRE(a.normals == b.normals);
    REQUIRE(a.corner_normal == b.corner_normal);
    REQUIRE(a.group_names == b.group_names);
    REQUIRE(a.face_group == b.face_group);
    REQUIRE(a.face_material == b.face_material);
}

std::string refusal_of_obj(const std::string& text) {
    const auto file = parse_obj(text, "bad.obj");
    REQUIRE_FALSE(file);
    return file.error().message;
}

}  // namespace

TEST_CASE("OBJ: read, written and read again is identical") {
    SECTION("a cube with everything that a file can carry") {
        const Mesh cube = decorated_cube();
        const auto read = parse_obj(obj_text(cube), "cube.obj");
        REQUIRE(read);
        require_same(read->mesh, cube);
        REQUIRE(obj_text(read->mesh) == obj_text(cube));
    }
    SECTION("the demo's base figure, byte for byte after one round") {
        const auto first = read_obj(demo("kit/figure.obj"));
        REQUIRE(first);
        REQUIRE(first->mesh.vertex_count() == 28876);
        REQUIRE(first->mesh.face_count() == 28832);
        const std::string text = obj_text(first->mesh);
        const auto second = parse_obj(text, "again.obj");
        REQUIRE(second);
        require_same(first->mesh, second->mesh);
        REQUIRE(obj_text(second->mesh) == text);
    }
}

TEST_CASE("OBJ: what other programs write is understood") {
    SECTION("negative indices, continued lines, Windows line ends, comments") {
        const auto f = parse_obj(
            "# c\r\nv 0 0 0\r\nv 1 0 0 # here\r\nv 0 1 0\r\nvt 0 0\r\nf -3/-1 \\\r\n-2/-1 -1/-1\r\n", "a.obj");
        REQUIRE(f);
        REQUIRE(f->mesh.corner_vertex == std::vector<Index>{0, 1, 2});
        REQUIRE(f->mesh.corner_uv == std::vector<Index>{0, 0, 0});
    }
    SECTION("vertex colours, exponents, plus signs, many digits") {
        const auto f = parse_obj(
            "v +1e-3 2.5E2 -.5 1 0 0.5\nv 0.1234567890123456789012 3 4 0 0 0\nv 5 6 7 0 0 0\nf 1 2 3", "a.obj");
        REQUIRE(f);
        REQUIRE(f->mesh.positions[0] == Vec3(1e-3, 250, -0.5));
        REQUIRE(f->mesh.positions[1].x() == 0.1234567890123456789012);
        REQUIRE(f->mesh.colours[0] == Colour{255, 0, 128, 255});
    }
    SECTION("lines and points are left out and said so") {
        const auto f = parse_obj("v 0 0 0\nv 1 0 0\nv 0 1 0\nl 1 2\np 1\nf 1 2 3\n", "a.obj");
        REQUIRE(f);
        REQUIRE(f->notes.size() == 1);
        REQUIRE(f->notes[0].find("2 lines") != std::string::npos);
    }
}

TEST_CASE("OBJ: numbers are read exactly as the standard library reads them") {
    for (const char* text : {"0.1", "123456.789", "9007199254740993", "1.7976931348623157e308", "4.9e-324",
                             "0.30000000000000004", "-0.0", "12345678901234567890.5"}) {
        const auto f = parse_obj(std::string("v ") + text + " 0 0\n", "n.obj");
        REQUIRE(f);
        REQUIRE(f->mesh.positions[0].x() == std::strtod(text, nullptr));
    }
}

TEST_CASE("OBJ: a damaged file is refused with its line and a remedy") {
    REQUIRE(refusal_of_obj("v 0 0 0\nv 1 x 0\n").find("line 2") != std::string::npos);
    REQUIRE(refusal_of_obj("v 0 0 0\nv 1 nan 0\n").find("not a finite number") != std::string::npos);
    REQUIRE(refusal_of_obj("v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n").find("asks for vertex 9, but 3") !=
            std::string::npos);
    REQUIRE(refusal_of_obj("v 0 0 0\nf 1 1\n").find("fewer than three") != std::string::npos);
    REQUIRE(refusal_of_obj("v 0 0 0\nf 1 0 1\n").find("line 2") != std::string::npos);
    REQUIRE(refusal_of_obj("v 1 2\n").find("needs three numbers") != std::string::npos);
}

TEST_CASE("Files: messages name the file and the reason") {
    Scratch scratch;
    SECTION("missing") {
        const auto f = read_mesh(scratch / "no.obj");
        REQUIRE_FALSE(f);
        REQUIRE(f.error().message.find("no.obj") != std::string::npos);
        REQUIRE(f.error().message.find("no such file") != std::string::npos);
    }
    SECTION("a folder instead of a file") {
        std::filesystem::create_directory(scratch / "x.obj");
        REQUIRE(read_mesh(scratch / "x.obj").error().message.find("folder") != std::string::npos);
    }
    SECTION("an unknown ending") {
        REQUIRE(read_mesh(scratch.write("x.doc", "hi")).error().code == ErrorCode::Unsupported);
    }
    SECTION("empty and pointless meshes") {
        REQUIRE(read_mesh(scratch.write("e.obj", "")).error().message.find("no vertices") != std::string::npos);
        REQUIRE(read_mesh(scratch.write("p.obj", "v 0 0 0\n")).error().message.find("no faces") != std::string::npos);
    }
    SECTION("a full disk leaves the old file as it was") {
        REQUIRE(write_file("/dev/full", "x").error().message.find("disk is full") != std::string::npos);
        REQUIRE(std::filesystem::is_character_file("/dev/full"));  // nothing was put in its place
        scratch.write("keep.txt", "old");
        const int code = with_file_limit(1000, [&] {
            const auto ok = write_file(scratch / "keep.txt", std::string(5000, 'n'));
            return !ok && ok.error().message.find("disk is full") != std::string::npos ? 0 : 1;
        });
        REQUIRE(code == 0);
        REQUIRE(scratch.read("keep.txt") == "old");
        REQUIRE(std::distance(std::filesystem::directory_iterator(scratch.folder()), {}) == 1);  // nothing left behind
        REQUIRE_FALSE(write_file(scratch / "none/keep.txt", "new"));
        REQUIRE(scratch.read("keep.txt") == "old");
    }
}
