// Maps of a skin from the command line.
#include <catch2/catch.hpp>

#include <filesystem>

#include "core/base/file.h"
#include "core/io/image.h"
#include "core/io/map_image.h"
#include "core/io/obj.h"
#include "core/kit/write_kit.h"
#include "core/project/store.h"
#include "core/skin/layers.h"
#include "tests/cli/run_cli.h"
#include "tests/support/dressed_subject.h"
#include "tests/support/glb_validator.h"

namespace {

Pixels pixels_of(const std::string& path) {
    const auto bytes = read_file(path);
    REQUIRE(bytes);
    const auto view = bytes->view();
    auto out = decode_image({path, {}, {view.begin(), view.end()}});
    REQUIRE(out);
    return std::move(*out);
}

// The mean of a square of texels around a place of the tile.
Vec3 mean_at(const Pixels& p, double u, double v, double half) {
    Vec3 sum = Vec3::Zero();
    int count = 0;
    for (int y = static_cast<int>((1 - v - half) * p.height); y <= static_cast<int>((1 - v + half) * p.height); ++y) {
        for (int x = static_cast<int>((u - half) * p.width); x <= static_cast<int>((u + half) * p.width); ++x) {
            const std::uint8_t* c = &p.rgba[4 * static_cast<std::size_t>(y * p.width + x)];
            sum += Vec3(c[0], c[1], c[2]);
            ++count;
        }
    }
    return sum / count;
}

std::string why(const Run& run) { return run.json()["error"]["message"].get<std::string>(); }

}  // namespace

TEST_CASE("CLI: the base's own textures come back from its own figure, with a sheet that says what is what") {
    Scratch scratch;
    const std::string figure = demo("kit/figure.obj");
    const Run run =
        cli("--json skin bake --kit " + kKit + " --source " + figure + " --fit " + figure +
            " --size 256 --tile 1001 --map colour --map normal --map displacement --heights png16 --name x" +
            " --out " + (scratch / "maps"));
    REQUIRE(run.code == 0);
    const Json said = run.json();
    CHECK(said["seen"].get<double>() > 0.99);
    CHECK(said["files"].size() == 4);
    const Pixels baked = pixels_of(scratch / "maps/x_colour.1001.png"),
                 own = pixels_of(demo("kit/textures/ottoline_head.jpg"));
    CHECK(baked.width == 256);
    for (const Vec2& uv : {Vec2(0.5, 0.75), Vec2(0.4, 0.62), Vec2(0.62, 0.6), Vec2(0.2, 0.5)})
        CHECK((mean_at(baked, uv.x(), uv.y(), 0.01) - mean_at(own, uv.x(), uv.y(), 0.01)).cwiseAbs().maxCoeff() < 4);
    // nothing stands out from itself
    const Pixels normals = pixels_of(scratch / "maps/x_normal.1001.png");
    CHECK((mean_at(normals, 0.5, 0.75, 0.02) - Vec3(128, 128, 255)).norm() < 2);
    const auto sheet = read_file(scratch / "maps/x_maps.json");
    REQUIRE(sheet);
    const Json about = Json::parse(sheet->view());
    CHECK(about["format"] == "veldstone maps");
    CHECK(about["maps"].size() == 3);
    CHECK(about["maps"][2]["zero_at"] == 0.5);
}

TEST_CASE("CLI: a skin's maps are refused with a reason") {
    Scratch scratch;
    const std::string figure = demo("kit/figure.obj"), out = " --size 32 --out " + (scratch / "maps");
    const std::string files = " --kit " + kKit + " --source " + figure + " --fit " + figure;
    CHECK(cli("skin bake" + out).code == 1);  // of what?
    CHECK(cli("skin bake" + files + " --project x.veldstone" + out).code == 2);
    const Run other = cli("--json skin bake --kit " + kKit + " --source " + figure + " --fit " +
                          demo("returns/unrelated.obj") + out);
    CHECK(other.code == 1);
    CHECK(why(other).find("vertices") != std::string::npos);
    auto without = read_base_kit(demo("bases/orrin"));
    REQUIRE(without);
    without->mesh.uvs.clear(), without->mesh.corner_uv.clear(), without->original.reset();
    REQUIRE(write_base_kit(*without, scratch / "bare"));
    const Run bare = cli("--json skin bake --kit " + (scratch / "bare") + " --source " + (scratch / "bare/base.obj") +
                         " --fit " + (scratch / "bare/base.obj") + out);
    CHECK(bare.code == 1);
    CHECK(why(bare).find("no UVs") != std::string::npos);
    const Run names = cli("--json skin bake" + files + " --pattern same" + out);
    CHECK(names.code == 1);
    CHECK(why(names).find("pattern") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(scratch / "maps"));
    CHECK(cli("skin bake" + files + " --tile 1013" + out).code == 1);
    CHECK(cli("skin bake" + files + " --map shine" + out).code == 2);
    CHECK(cli("skin bake" + files + " --map normal --light-out 1" + out).code == 1);
    CHECK(cli("skin bake" + files + " --shine-out 2" + out).code == 1);
    // of a project without a fit
    REQUIRE(
        cli("project make --kit " + kKit + " --out " + (scratch / "p.veldstone") + " --subject A --source " + figure)
            .code == 0);
    const Run unfitted = cli("--json skin bake --project " + (scratch / "p.veldstone") + out);
    CHECK(unfitted.code == 1);
    CHECK(why(unfitted).find("fit") != std::string::npos);
}

TEST_CASE("CLI: heights are in the shape's own millimetres, however tall it is and whatever its file's unit") {
    Scratch scratch;
    const auto tall = read_mesh(demo("returns/tall_carrier.obj"));
    REQUIRE(tall);
    Mesh shape = tall->mesh, raised = tall->mesh;
    const Points normals = vertex_normals(shape.positions, triangulate(shape).triangles);
    for (std::size_t v = 0; v < shape.positions.size(); ++v) {
        raised.positions[v] = (shape.positions[v] + normals[v]) / 10;  // a millimetre, in centimetres
        shape.positions[v] /= 10;
    }
    shape.material_libraries = raised.material_libraries = {};
    REQUIRE(write_file(scratch / "shape.obj", obj_text(shape)));
    REQUIRE(write_file(scratch / "raised.obj", obj_text(raised)));
    const Run run = cli("--json skin bake --kit " + kKit + " --source " + (scratch / "raised.obj") + " --fit " +
                        (scratch / "shape.obj") + " --size 64 --map displacement --out " + (scratch / "maps"));
    REQUIRE(run.code == 0);
    CHECK(run.json()["reach"]["thigh_l"]["median_mm"].get<double>() == Approx(1).margin(0.02));
}

TEST_CASE("CLI: a project's skin: a layer of the fit, cleaned, matched, written and worn") {
    Scratch scratch;
    const std::string file = scratch / "p.veldstone", of = " " + file + " --subject Vesper";
    ProjectState state = dressed_subject("Vesper", [](const Vec3&) { return Colour{150, 120, 100, 255}; });
    state.subjects.push_back({"Nobody", {}, {}});
    REQUIRE(save_project(file, state));

    CHECK(why(cli("--json skin layers" + of)).find("--add") != std::string::npos);
    CHECK(why(cli("--json skin layers " + file + " --subject Nobody --add")).find("no fit") != std::string::npos);
    CHECK(why(cli("--json skin layers " + file + " --subject Somebody")).find("Somebody") != std::string::npos);
    const Run added = cli("--json skin layers" + of + " --add --size 64 --out " + (scratch / "maps") + " --glb " +
                          (scratch / "worn.glb"));
    REQUIRE(added.code == 0);
    const Json first = added.json();
    CHECK(first["layers"].size() == 1);
    CHECK(first["layers"][0]["from"] == "scan");
    CHECK(first["layers"][0]["seen"].get<double>() > 0.95);
    CHECK(std::filesystem::exists(scratch / "worn.glb"));
    const Pixels baked = pixels_of(scratch / "maps/Vesper_Skin_colour.1001.png");
    CHECK((mean_at(baked, 0.5, 0.75, 0.01) - Vec3(150, 120, 100)).cwiseAbs().maxCoeff() < 4);
    // to the base's tone, and back with less taken out
    const Run matched = cli("--json skin match" + of);
    REQUIRE(matched.code == 0);
    const Json toned = matched.json();
    CHECK(toned["layers"][0]["recipe"]["tone"] == 1.0);
    CHECK(toned["layers"][0]["old"] == false);
    const Run cleaned = cli("--json skin clean" + of + " --light-out 0.5 --shine-out 0.25 --no-mirror");
    REQUIRE(cleaned.code == 0);
    const Json clean = cleaned.json();
    CHECK(clean["layers"][0]["recipe"]["light_out"] == 0.5);
    CHECK(clean["layers"][0]["recipe"]["shine_out"] == 0.25);
    CHECK(clean["layers"][0]["recipe"]["fill_mirrored"] == false);
    CHECK(clean["layers"][0]["recipe"]["tone"] == 1.0);
    CHECK(why(cli("--json skin clean" + of + " --layer other")).find("'other'") != std::string::npos);
    CHECK(why(cli("--json skin match" + of + " --skin other")).find("no skin 'other'") != std::string::npos);
    CHECK(cli("skin clean" + of + " --light-out 2").code == 2);
    // another size is baked anew and kept
    const Run larger = cli("--json skin layers" + of + " --size 96");
    REQUIRE(larger.code == 0);
    CHECK(larger.json()["layers"][0]["old"] == false);
    const auto back = load_project(file);
    REQUIRE(back);
    CHECK(back->state.subjects[0].skins.size() == 1);
    CHECK(back->state.subjects[0].skin()->size == 96);
}

TEST_CASE("CLI: a project's skin: layers from elsewhere, in one region, in a stage, in another tone, as a kit") {
    Scratch scratch;
    const std::string file = scratch / "p.veldstone", other = scratch / "other.veldstone";
    ProjectState state = dressed_subject("Vesper", [](const Vec3&) { return Colour{150, 120, 100, 255}; });
    Subject second = state.subjects[0];
    second.name = "Ash", second.id = SubjectId::make();
    second.sources[0].id = SourceId::make();
    second.fits[0].id = FitId::make(), second.fits[0].source_id = second.sources[0].id;
    state.subjects.push_back(second);
    REQUIRE(save_project(file, state));
    const std::string vesper = " " + file + " --subject Vesper", ash = " " + file + " --subject Ash";
    const Run first = cli("--json skin layers" + vesper + " --add --size 64");
    INFO(first.out);
    REQUIRE(first.code == 0);
    REQUIRE(std::filesystem::copy_file(file, other));
    // Ash wears Vesper's skin, only at the nose, and one from another file
    const Run worn = cli("--json skin layers" + ash + " --size 64 --wear Vesper --only-in nose");
    REQUIRE(worn.code == 0);
    CHECK(worn.json()["layers"][0]["from"] == "worn");
    CHECK(why(cli("--json skin layers" + ash + " --wear Nobody")).find("'Nobody'") != std::string::npos);
    CHECK(why(cli("--json skin layers" + ash + " --only-in knee")).find("knee") != std::string::npos);
    CHECK(why(cli("--json skin layers" + ash + " --wear-mix")).find("mixed in") != std::string::npos);
    const Run brought = cli("--json skin layers" + ash + " --bring " + other + " --bring-subject Vesper");
    REQUIRE(brought.code == 0);
    CHECK(brought.json()["layers"].size() == 2);
    CHECK(cli("skin layers" + ash + " --bring " + (scratch / "none.veldstone")).code == 1);
    // a stage with relief of its own, written beside the plain skin
    const Run staged =
        cli("--json skin layers" + vesper + " --stage smiling --expression smile --stage-fit 'fit 1' --out " +
            (scratch / "maps") + " --map colour --map normal --stages --all-skins --glb " + (scratch / "worn.glb"));
    REQUIRE(staged.code == 0);
    const Json report = glb_report(scratch / "worn.glb");
    INFO(report.dump(1).substr(0, 2000));
    CHECK(report["numErrors"] == 0);
    // tangents are left to the viewer, which finds those of the bake by glTF's own rule
    for (const Json& m : report["messages"]) CHECK(m["code"] == "MESH_PRIMITIVE_GENERATED_TANGENT_SPACE");
    CHECK(staged.json()["stages"][0]["relief_of"] == "fit 1");
    CHECK(std::filesystem::exists(scratch / "maps/Vesper_Skin_smiling_normal.1001.png"));
    CHECK(why(cli("--json skin layers" + vesper + " --stage x --expression frowning")).find("frowning") !=
          std::string::npos);
    CHECK(why(cli("--json skin layers" + vesper + " --stage-fit 'fit 1'")).find("--stage") != std::string::npos);
    // tones
    const Run like = cli("--json skin match" + vesper + " --like Ash");
    REQUIRE(like.code == 0);
    CHECK(like.json()["layers"][0]["recipe"]["tone_like"].is_string());
    const Run coloured = cli("--json skin match" + vesper + " --like-colour '#c89678'");
    REQUIRE(coloured.code == 0);
    CHECK(coloured.json()["layers"][0]["recipe"]["tone_like"] == Json({200, 150, 120}));
    CHECK(cli("skin match" + vesper + " --like-colour red").code == 1);
    CHECK(cli("skin match" + vesper + " --like Ash --like-colour '#c89678'").code == 1);
    CHECK(cli("skin match" + vesper + " --like-picture " + (scratch / "none.jpg")).code == 1);
    const Run grained = cli("--json skin clean" + vesper + " --own-grain");
    REQUIRE(grained.code == 0);
    CHECK(grained.json()["layers"][0]["recipe"]["own_grain"] == true);
    // the kit in that skin
    REQUIRE(cli("skin layers" + vesper + " --kit-out " + (scratch / "kit")).code == 0);
    const auto kit = read_base_kit(scratch / "kit");
    REQUIRE(kit);
    CHECK(kit->mesh.images.size() >= 2);
}
