// Mutations of small valid files: every one must be read or refused with a message, never crash.
// Run under AddressSanitizer by `scripts/test asan`.
#include <catch2/catch.hpp>

#include <random>

#include "core/io/glb_write.h"
#include "core/io/gltf_read.h"
#include "core/io/mesh_blob.h"
#include "core/io/obj.h"
#include "core/io/ply.h"
#include "core/io/stl.h"
#include "core/landmark/landmarks.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

constexpr int kVariants = 20000;

std::string mutate(const std::string& good, std::mt19937& random) {
    std::string out = good;
    const auto at = [&] { return out.empty() ? 0 : random() % out.size(); };
    for (int edits = 1 + static_cast<int>(random() % 4); edits > 0; --edits) {
        switch (random() % 7) {
            case 0:
                out.resize(at());
                break;  // cut short
            case 1:
                if (!out.empty()) out[at()] = static_cast<char>(random());
                break;  // one byte
            case 2:
                if (!out.empty()) out[at()] ^= static_cast<char>(1 << random() % 8);
                break;
            case 3:
                out.insert(at(), out.substr(at(), random() % 30));
                break;  // repeated piece
            case 4:
                out.erase(at(), random() % 30);
                break;  // lost piece
            case 5: {   // another number
                static const char* numbers[] = {"nan", "-1", "4294967296", "1e999", "0", "99999999999999999999",
                                                "-inf"};
                const std::size_t digit = out.find_first_of("0123456789", at());
                if (digit != std::string::npos) out.replace(digit, 1, numbers[random() % 7]);
                break;
            }
            default:
                for (int k = 0; k < 4 && !out.empty(); ++k) out[at()] = static_cast<char>(0xff);
        }
    }
    return out;
}

template <class Parse>
void survive(const std::string& good, Parse parse) {
    std::mt19937 random(4711);
    int refused = 0;
    for (int i = 0; i < kVariants; ++i) {
        const std::string bad = mutate(good, random);
        const std::string message = parse(bad);
        refused += !message.empty();
    }
    INFO(refused << " of " << kVariants << " refused");
    CHECK(refused > kVariants / 20);  // the mutations do break files
}

std::string checked(const Result<MeshFile>& file) {
    if (!file) {
        REQUIRE_FALSE(file.error().message.empty());
        return file.error().message;
    }
    const auto ok = check_mesh(file->mesh, "mutated");
    if (!ok) return ok.error().message;
    REQUIRE(triangulate(file->mesh).triangles.size() >= file->mesh.face_count());
    return "";
}

}  // namespace

TEST_CASE("Damaged OBJ files are read or refused") {
    survive(obj_text(decorated_cube()), [](const std::string& s) { return checked(parse_obj(s, "m.obj")); });
}

TEST_CASE("Damaged PLY files are read or refused") {
    Mesh m = cube();
    for (int i = 0; i < 8; ++i) m.colours.push_back({1, 2, 3, 255});
    survive(ply_bytes(m, PlyEncoding::Ascii), [](const std::string& s) { return checked(parse_ply(s, "m.ply")); });
    survive(ply_bytes(m, PlyEncoding::LittleEndian),
            [](const std::string& s) { return checked(parse_ply(s, "m.ply")); });
    survive(ply_bytes(m, PlyEncoding::BigEndian), [](const std::string& s) { return checked(parse_ply(s, "m.ply")); });
}

TEST_CASE("Damaged STL files are read or refused") {
    survive(stl_bytes(cube()), [](const std::string& s) { return checked(parse_stl(s, "m.stl")); });
    survive(
        "solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 "
        "0\nendloop\nendfacet\nendsolid a\n",
        [](const std::string& s) { return checked(parse_stl(s, "m.stl")); });
}

TEST_CASE("Damaged GLB files are read or refused") {
    Mesh m = decorated_cube();
    m.images.push_back({"dots", "image/png", {1, 2, 3, 4}});
    m.materials[0].image = 0;
    GlbModel model;
    model.name = "cube";
    model.mesh = &m;
    survive(glb_bytes(model), [](const std::string& s) { return checked(parse_gltf(s, "m.glb", "/nonexistent")); });
}

TEST_CASE("Damaged landmark files are read or refused") {
    LandmarkSet set;
    set.unit = Unit::Centimetre;
    set.points = {{"pronasale", {1, 2, 3}}, {"sellion", {4, 5.5, -6}}};
    set.curves["jaw_line"] = {{0, 0, 0}, {1, 1, 1}};
    survive(landmarks_text(set), [](const std::string& s) {
        const auto f = parse_landmarks(s, "m.json");
        return f ? std::string() : f.error().message;
    });
}

TEST_CASE("Damaged stored meshes are read or refused") {
    survive(mesh_to_blob(decorated_cube()), [](const std::string& s) {
        const auto f = mesh_from_blob(s);
        return f ? std::string() : f.error().message;
    });
}
