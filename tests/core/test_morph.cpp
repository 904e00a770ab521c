#include <catch2/catch.hpp>

#include "tests/core/project_support.h"
#include "tests/support/glb_validator.h"

TEST_CASE("Morph: 0 is the base exactly, 1 the shape, others extrapolate") {
    const auto kit = demo_kit();
    const Morph m = bent_morph("m");
    REQUIRE(m.index.size() == kit->region("face").size());
    REQUIRE(mix_morphs(kit->mesh.positions, {{&m, 0}}) == kit->mesh.positions);
    const Points one = mix_morphs(kit->mesh.positions, {{&m, 1}}), wanted = bent_base();
    for (std::size_t v = 0; v < one.size(); ++v) REQUIRE((one[v] - wanted[v]).norm() < 1e-9);
    const Points beyond = mix_morphs(kit->mesh.positions, {{&m, -0.5}, {&m, 2.0}});
    for (Index v : m.index)
        REQUIRE((beyond[v] - kit->mesh.positions[v] - 1.5 * (wanted[v] - kit->mesh.positions[v])).norm() < 1e-9);
}

TEST_CASE("Morph file: written and read again, another base is refused") {
    const auto kit = demo_kit();
    Morph m = bent_morph("nose \"out\"");
    m.note = "from a test";
    m.low = -1;
    m.figures = "{\"coverage\":0.5}";
    const auto again = parse_morph(morph_text(m), "m", *kit);
    REQUIRE(again);
    REQUIRE(*again == m);
    m.topology = "other";
    REQUIRE(parse_morph(morph_text(m), "m.json", *kit).error().message.find("another base") != std::string::npos);
    REQUIRE_FALSE(parse_morph("{}", "m", *kit));
    REQUIRE_FALSE(parse_morph("", "m", *kit));
}

TEST_CASE("Morph: a shape with other counts is refused with the counts") {
    Points shape = demo_kit()->mesh.positions;
    shape.pop_back();
    const auto m = make_morph(*demo_kit(), shape, "m");
    REQUIRE(m.error().message.find("28875") != std::string::npos);
    REQUIRE_FALSE(make_morph(*demo_kit(), bent_base(), ""));
}

TEST_CASE("Export: OBJ in the base's order") {
    Scratch scratch;
    const Morph m = bent_morph("m");
    REQUIRE(export_morphed_obj(*demo_kit(), {{&m, 0.5}}, scratch / "half.obj"));
    const auto read = read_obj(scratch / "half.obj");
    REQUIRE(read);
    REQUIRE(topology_key(read->mesh) == demo_kit()->topology_key);
    REQUIRE(read->mesh.group_names == demo_kit()->mesh.group_names);
    REQUIRE(read->mesh.positions == mix_morphs(demo_kit()->mesh.positions, {{&m, 0.5}}));
    REQUIRE_FALSE(export_morphed_obj(*demo_kit(), {}, "/proc/none.obj"));
}

TEST_CASE("Export: GLB opens elsewhere and the validator has nothing to say") {
    Scratch scratch;
    const Morph m = bent_morph("nose out"), n = bent_morph("second");
    REQUIRE(export_glb(*demo_kit(), {{&m, 0.5}, {&n, 0}}, scratch / "figure.glb"));
    SECTION("assimp sees the base, its joints and the named targets") {
        Assimp::Importer importer;
        const aiScene* scene = importer.ReadFile(scratch / "figure.glb", 0);
        REQUIRE(scene);
        REQUIRE(scene->mNumMeshes == 6);
        unsigned bones = 0, faces = 0;
        for (unsigned i = 0; i < scene->mNumMeshes; ++i) {
            faces += scene->mMeshes[i]->mNumFaces;
            bones = std::max(bones, scene->mMeshes[i]->mNumBones);
            REQUIRE(scene->mMeshes[i]->mNumAnimMeshes == 2);
            REQUIRE(std::string(scene->mMeshes[i]->mAnimMeshes[0]->mName.C_Str()) == "nose out");
        }
        REQUIRE(faces == demo_kit()->triangulation.triangles.size());
        REQUIRE(bones == 55);
        REQUIRE(scene->mNumTextures == 2);
    }
    SECTION("the Khronos validator") {
        const auto report = glb_report(scratch / "figure.glb");
        INFO(report.dump(1).substr(0, 2000));
        REQUIRE(report["numErrors"] == 0);
        REQUIRE(report["numWarnings"] == 0);
    }
}
