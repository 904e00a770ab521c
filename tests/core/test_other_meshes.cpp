#include <catch2/catch.hpp>

#include <cstring>

#include "core/io/glb_write.h"
#include "core/io/gltf_read.h"
#include "core/io/ply.h"
#include "core/io/stl.h"
#include "tests/support/scratch.h"
#include "tests/support/small_meshes.h"

using namespace veld;

TEST_CASE("PLY: every encoding gives back positions, faces and colours") {
    Mesh cube = decorated_cube();
    for (Index v = 0; v < cube.vertex_count(); ++v)
        cube.colours.push_back({static_cast<std::uint8_t>(v * 30), 7, 200, 255});
    for (auto encoding : {PlyEncoding::Ascii, PlyEncoding::LittleEndian, PlyEncoding::BigEndian}) {
        const auto read = parse_ply(ply_bytes(cube, encoding), "cube.ply");
        REQUIRE(read);
        REQUIRE(read->mesh.positions == cube.positions);
        REQUIRE(read->mesh.corner_vertex == cube.corner_vertex);
        REQUIRE(read->mesh.face_start == cube.face_start);
        REQUIRE(read->mesh.colours == cube.colours);
    }
}

TEST_CASE("PLY: what scanners write is understood") {
    SECTION("float rows with colours and triangles: the fast way and the slow way agree") {
        const auto scan = read_ply(demo("subjects/bram/bram_scan.ply"));
        REQUIRE(scan);
        REQUIRE(scan->mesh.vertex_count() == 155915);
        REQUIRE(scan->mesh.face_count() == 299912);
        REQUIRE(scan->mesh.colours.size() == 155915);
        const auto again = parse_ply(ply_bytes(scan->mesh, PlyEncoding::BigEndian), "again.ply");
        REQUIRE(again);
        REQUIRE(again->mesh.positions == scan->mesh.positions);
        REQUIRE(again->mesh.corner_vertex == scan->mesh.corner_vertex);
    }
    SECTION("extra properties and elements are stepped over, float colours are scaled") {
        const std::string text =
            "ply\nformat ascii 1.0\ncomment hi\nelement camera 1\nproperty list uchar float pose\nelement vertex 3\n"
            "property float nx\nproperty float x\nproperty float y\nproperty float z\nproperty float red\nproperty "
            "float green\nproperty float blue\n"
            "element face 2\nproperty uchar flag\nproperty list uchar int vertex_index\nend_header\n"
            "3 1 2 3\n9 0 0 0 1 0.5 0\n9 1 0 0 0 0 0\n9 0 1 0 0 0 0\n1 3 0 1 2\n1 2 0 1\n";
        const auto f = parse_ply(text, "c.ply");
        REQUIRE(f);
        REQUIRE(f->mesh.positions[1] == Vec3(1, 0, 0));
        REQUIRE(f->mesh.colours[0].g == 127);
        REQUIRE(f->mesh.face_count() == 1);
        REQUIRE(f->notes.size() == 1);
    }
}

TEST_CASE("PLY: damaged files are refused") {
    const std::string good = ply_bytes(cube());
    REQUIRE_FALSE(parse_ply(good.substr(0, good.size() - 3), "x.ply"));
    REQUIRE(parse_ply(good.substr(0, 40), "x.ply").error().message.find("header does not end") != std::string::npos);
    REQUIRE(parse_ply("obj\n", "x.ply").error().message.find("not a PLY") != std::string::npos);
    const auto huge = parse_ply(
        "ply\nformat binary_little_endian 1.0\nelement vertex 4000000000000\nproperty float x\nproperty float "
        "y\nproperty float z\nend_header\n",
        "x.ply");
    REQUIRE(huge.error().message.find("cut short") != std::string::npos);
}

TEST_CASE("STL: both kinds, with corners joined") {
    const std::string binary = stl_bytes(cube());
    const auto read = parse_stl(binary, "cube.stl");
    REQUIRE(read);
    REQUIRE(read->mesh.vertex_count() == 8);
    REQUIRE(read->mesh.face_count() == 12);
    REQUIRE(stl_bytes(read->mesh) == binary);
    const auto ascii = parse_stl(
        "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 "
        "0\nendloop\nendfacet\nendsolid a\n",
        "a.stl");
    REQUIRE(ascii);
    REQUIRE(ascii->mesh.face_count() == 1);
    REQUIRE_FALSE(parse_stl(binary.substr(0, 200), "cut.stl"));
    REQUIRE_FALSE(parse_stl("solid a\nvertex 0 0 0\n", "cut.stl"));
}

TEST_CASE("GLB: what is written comes back, node transforms are applied") {
    Mesh mesh = decorated_cube();
    mesh.positions[3] = Vec3(1, 1, 0);
    mesh.images.push_back({"dots", "image/png", {1, 2, 3, 4}});
    mesh.materials[0].image = 0;
    GlbModel model;
    model.name = "cube";
    model.mesh = &mesh;
    const std::string bytes = glb_bytes(model);
    const auto read = parse_gltf(bytes, "cube.glb", ".");
    REQUIRE(read);
    REQUIRE(read->mesh.face_count() == 12);
    REQUIRE(read->mesh.images.size() == 1);
    REQUIRE(read->mesh.images[0].bytes == mesh.images[0].bytes);
    REQUIRE(read->mesh.materials[0].name == "skin");
    REQUIRE((bounding_box(read->mesh.positions).high - Vec3(1, 1, 1) * 0.001).norm() < 1e-9);

    std::string moved = bytes;
    const std::string node = "\"mesh\":0,\"name\":\"cube\"";
    const std::string text = bytes.substr(20, bytes.find("BIN") - 20);
    std::string json = text.substr(0, text.rfind('}') + 1);
    json.replace(json.find(node), node.size(), "\"mesh\":0,\"translation\":[0,5,0],\"scale\":[2,2,-2]");
    json.resize((json.size() + 3) / 4 * 4, ' ');
    const std::size_t binary_at = 20 + *reinterpret_cast<const std::uint32_t*>(bytes.data() + 12);
    const auto put = [](std::string& s, std::size_t at, std::uint32_t v) { std::memcpy(s.data() + at, &v, 4); };
    moved = bytes.substr(0, 20) + json + bytes.substr(binary_at);
    put(moved, 8, static_cast<std::uint32_t>(moved.size()));
    put(moved, 12, static_cast<std::uint32_t>(json.size()));
    const auto placed = parse_gltf(moved, "moved.glb", ".");
    REQUIRE(placed);
    const Box box = bounding_box(placed->mesh.positions);
    REQUIRE((box.low - Vec3(0, 5, -0.002)).norm() < 1e-6);
    REQUIRE((box.high - Vec3(0.002, 5.002, 0)).norm() < 1e-6);
    // the mirrored node's faces still point outwards: positive volume
    double volume = 0;
    for (const Triangle& t : triangulate(placed->mesh).triangles) {
        const auto& x = placed->mesh.positions;
        volume += (x[t[0]] - box.centre()).dot((x[t[1]] - box.centre()).cross(x[t[2]] - box.centre()));
    }
    REQUIRE(volume > 0);
}

TEST_CASE("GLB: the demo scan is read with its texture") {
    const auto scan = read_gltf(demo("subjects/ottoline/ottoline_scan.glb"));
    REQUIRE(scan);
    REQUIRE(scan->mesh.vertex_count() == 102296);
    REQUIRE(scan->mesh.face_count() == 153277);
    REQUIRE(scan->mesh.images.size() == 1);
    REQUIRE(scan->mesh.images[0].bytes.size() == 692816);
}

TEST_CASE("glTF: accessors of another kind than their use asks for are never read past their end") {
    // one triangle whose colours, UVs, indices or positions are declared as something else
    const auto triangle = [](const std::string& positions, const std::string& colours, const std::string& indices) {
        std::string bin(36 + 12 + 12, '\0');
        const float corner[9] = {0, 0, 0, 1, 0, 0, 0, 1, 0}, grey[3] = {0.25f, 0.5f, 0.75f};
        const std::uint32_t order[3] = {0, 1, 2};
        std::memcpy(bin.data(), corner, 36), std::memcpy(bin.data() + 36, grey, 12),
            std::memcpy(bin.data() + 48, order, 12);
        std::string json =
            R"({"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],"nodes":[{"mesh":0}],"meshes":[{"primitives":[{"attributes":{"POSITION":0,"COLOR_0":1},"indices":2}]}],
            "buffers":[{"byteLength":60}],"bufferViews":[{"buffer":0,"byteLength":36},{"buffer":0,"byteOffset":36,"byteLength":12},{"buffer":0,"byteOffset":48,"byteLength":12}],"accessors":[)" +
            std::string(R"({"bufferView":0,"count":3,)") + positions + R"(},{"bufferView":1,"count":3,)" + colours +
            R"(},{"bufferView":2,"count":3,)" + indices + "}]}";
        json.resize((json.size() + 3) / 4 * 4, ' ');
        const auto word = [](std::size_t n) {
            const auto x = static_cast<std::uint32_t>(n);
            return std::string(reinterpret_cast<const char*>(&x), 4);
        };
        return "glTF" + word(2) + word(12 + 8 + json.size() + 8 + bin.size()) + word(json.size()) + "JSON" + json +
               word(bin.size()) + std::string("BIN\0", 4) + bin;
    };
    const std::string vec3 = R"("componentType":5126,"type":"VEC3")",
                      scalar = R"("componentType":5126,"type":"SCALAR")",
                      index = R"("componentType":5125,"type":"SCALAR")";
    SECTION("colours that are one number each") {
        const auto read = parse_gltf(triangle(vec3, scalar, index), "scalar.glb", ".");
        REQUIRE(read);
        CHECK(read->mesh.face_count() == 1);
        CHECK(read->mesh.colours.empty());
        REQUIRE(read->notes.size() == 1);
        CHECK(read->notes[0].find("colours") != std::string::npos);
    }
    SECTION("a matrix is no colour") {
        const auto read =
            parse_gltf(triangle(vec3, R"("componentType":5121,"type":"MAT2")", index), "matrix.glb", ".");
        REQUIRE(read);
        CHECK(read->mesh.colours.empty());
    }
    SECTION("positions that are not three numbers, indices that are no whole numbers") {
        CHECK_FALSE(parse_gltf(triangle(scalar, scalar, index), "p.glb", "."));
        CHECK_FALSE(parse_gltf(triangle(vec3, scalar, R"("componentType":5126,"type":"SCALAR")"), "i.glb", "."));
        CHECK_FALSE(parse_gltf(triangle(vec3, scalar, R"("componentType":5123,"type":"VEC2")"), "i2.glb", "."));
    }
    SECTION("colours as they should be") {
        const auto read = parse_gltf(triangle(vec3, R"("componentType":5121,"normalized":true,"type":"VEC4")", index),
                                     "fine.glb", ".");
        REQUIRE(read);
        CHECK(read->mesh.colours.size() == 3);
    }
}
