// The command line: base kits made, checked and shown.
#include <catch2/catch.hpp>

#include <filesystem>

#include "core/base/file.h"
#include "core/io/mesh_file.h"
#include "core/kit/base_kit.h"
#include "core/morph/morph_file.h"
#include "tests/cli/run_cli.h"

TEST_CASE("CLI: the second demo kit is edited, packed, unpacked, and gives its own file back") {
    const std::string kit = demo("bases/orrin");
    Scratch scratch;
    const Run shown = cli("kit show " + kit + " --json");
    REQUIRE(shown.code == 0);
    CHECK(shown.json()["roles"]["jaw"] == "jaw bone");
    CHECK(shown.json()["own_joints"].size() == 60);
    CHECK(shown.json()["arms_below_level"].get<double>() > 20);
    CHECK(shown.json()["rest_poses"].size() == 2);
    const std::string copy = scratch / "copy";
    const std::size_t doubts = shown.json()["unsure"].size();
    REQUIRE(doubts > 0);
    scratch.write("lips.json", "[9, 4, 4, 7]");
    const Run edited = cli("kit edit " + kit + " --out " + copy + " --region lips=" + (scratch / "lips.json") +
                           " --role jaw= --right all --json");
    REQUIRE(edited.code == 0);
    CHECK(edited.json()["doubts_left"] == 0);
    const Run again = cli("kit show " + copy + " --json");
    CHECK(again.json()["regions"]["lips"] == 3);
    CHECK_FALSE(again.json()["roles"].contains("jaw"));
    CHECK_FALSE(again.json().contains("unsure"));
    // in place: a landmark where another one is
    const auto before = read_base_kit(copy);
    REQUIRE(before);
    const Vec3 nose = before->landmarks.at("pronasale").at(before->mesh.positions);
    const std::string place =
        std::to_string(nose.x()) + "," + std::to_string(nose.y()) + "," + std::to_string(nose.z());
    REQUIRE(cli("kit edit " + copy + " --landmark subnasale=" + place + " --role 'jaw=jaw bone'").code == 0);
    const auto after = read_base_kit(copy);
    REQUIRE(after);
    CHECK((after->landmarks.at("subnasale").at(after->mesh.positions) - nose).norm() < 0.01);
    CHECK(after->by_hand.contains("subnasale"));
    CHECK(after->own_rig->roles.at("jaw") == "jaw bone");
    for (const char* wrong : {"--landmark subnasale=9,9", "--landmark subnasale=9000,0,0",
                              "--region lips=nowhere.json", "--role jaw=nobody", "--role =x"}) {
        CAPTURE(wrong);
        CHECK(cli("kit edit " + copy + " " + wrong).code == 1);
    }

    const std::string zip = scratch / "orrin.zip", unpacked = scratch / "unpacked";
    REQUIRE(cli("kit pack " + copy + " --out " + zip).code == 0);
    REQUIRE(cli("kit unpack " + zip + " --out " + unpacked).code == 0);
    CHECK(read_base_kit(unpacked)->region("lips").size() == 3);
    CHECK(cli("kit unpack " + zip + " --out " + unpacked).code == 1);  // not empty
    CHECK(cli("kit pack " + scratch.folder() + " --out " + zip).code == 1);
    scratch.write("broken.zip", scratch.read("orrin.zip").substr(0, 5000));
    CHECK(cli("kit unpack " + (scratch / "broken.zip") + " --out " + (scratch / "none")).code == 1);
    CHECK_FALSE(std::filesystem::exists(scratch / "none"));

    // its own file, with a morph as one more target
    Points longer = after->mesh.positions;
    for (const Index v : after->region("face")) longer[v].z() += 2;
    REQUIRE(write_file(scratch / "shape.morph", morph_text(*make_morph(*after, longer, "nose"))));
    const std::string out = scratch / "out.glb";
    REQUIRE(cli("morph export --kit " + copy + " --morph " + (scratch / "shape.morph") + " --out " + out).code == 0);
    const auto first = read_mesh(kit + "/original.glb"), last = read_mesh(out);
    REQUIRE(last);
    CHECK(last->targets.size() == first->targets.size() + 1);
    CHECK(last->skin->weights.weight == first->skin->weights.weight);
    CHECK(last->mesh.corner_vertex == first->mesh.corner_vertex);
}

TEST_CASE("CLI: a kit from somebody else's base, checked, shown, and worked with") {
    Scratch scratch;
    const std::string base = scratch / "base.glb", out = scratch / "kit";
    REQUIRE(std::system((std::string(VELDSTONE_BUILD) + "/bin/base-standin " + kKit + " " + base +
                         " 9 --bust --edge 5 >/dev/null")
                            .c_str()) == 0);
    const Run made = cli("kit make " + base + " --model " + kKit + " --out " + out + " --json");
    REQUIRE(made.code == 0);
    const auto json = made.json();
    CHECK(json["figure"] == false);
    CHECK(json["mirror"]["unpaired"] == 0);
    CHECK(json["parts"].size() == 8);
    CHECK(json["neck_ring"].get<int>() > 8);
    CHECK(json["landmarks"].get<int>() > 45);
    for (const auto& ability : json["abilities"]) {
        CAPTURE(ability.dump());
        const std::string name = ability["ability"];
        CHECK(ability["ready"] == (name != "body fits, pose taken out"));
    }
    const Run checked = cli("kit check " + out + " --json");
    REQUIRE(checked.code == 0);
    CHECK(checked.json()["abilities"] == json["abilities"]);
    const Run shown = cli("kit show " + out + " --json");
    REQUIRE(shown.code == 0);
    CHECK(shown.json()["vertices"] == json["vertices"]);
    CHECK(shown.json()["original"]["vertices"] == json["file_vertices"]);
    CHECK(cli("kit show " + out).out.find("made from original.glb") != std::string::npos);

    // a scan is fitted onto it as onto any kit
    const Run fit =
        cli("wrap --kit " + out + " --landmarks " + demo("subjects/ottoline/ottoline_landmarks.json") + " --source " +
            demo("subjects/ottoline/ottoline_scan.glb") + " --out " + (scratch / "fit.obj"));
    CHECK(fit.code == 0);

    // a morph of the demo's base moves house
    const std::string smile = scratch / "smile.json";
    REQUIRE(cli("morph make --kit " + kKit + " --shape " + demo("kit/expressions/smile.obj") + " --name smile --out " +
                smile)
                .code == 0);
    const Run carried = cli("kit carry --from " + kKit + " --to " + out + " --morph " + smile + " --out " +
                            (scratch / "carried") + " --json");
    REQUIRE(carried.code == 0);
    CHECK(carried.json()["morphs"][0]["most_after_mm"].get<double>() > 1);
    CHECK(cli("morph export --kit " + out + " --morph " + (scratch / "carried/smile.json") + " --out " +
              (scratch / "smile.glb"))
              .code == 0);
    // given back in the file's own vertices, order and unit
    const std::string back = scratch / "back.glb";
    REQUIRE(cli("kit export " + out + " --out " + back).code == 0);
    const auto first = read_mesh(base), again = read_mesh(back);
    REQUIRE(first);
    REQUIRE(again);
    REQUIRE(again->mesh.positions.size() == first->mesh.positions.size());
    CHECK(again->mesh.corner_vertex == first->mesh.corner_vertex);
    for (std::size_t v = 0; v < first->mesh.positions.size(); v += 31)
        CHECK((again->mesh.positions[v] - first->mesh.positions[v]).norm() < 1e-6);
    CHECK(
        cli("kit export " + out + " --morph " + (scratch / "carried/smile.json") + "=0.5 --out " + (scratch / "s.obj"))
            .code == 0);
    CHECK(cli("kit export " + out + " --morph " + (scratch / "carried/smile.json") + "=much --out " +
              (scratch / "t.obj"))
              .code == 1);
    CHECK(cli("kit export " + kKit + " --out " + (scratch / "u.obj")).code == 1);  // not made from a file
    CHECK(cli("kit carry --from " + out + " --to " + kKit + " --morph " + smile + " --out " + (scratch / "x")).code ==
          1);

    CHECK(cli("kit make " + base + " --model " + kKit + " --out " + demo("subjects")).code == 1);  // other files there
    CHECK(cli("kit make " + base + " --model " + kKit + " --out " + out + " --part eye").code == 1);
    CHECK(cli("kit make " + (scratch / "none.obj") + " --model " + kKit + " --out " + out).code == 1);
    CHECK(cli("kit check " + (scratch / "nowhere")).code == 1);
    CHECK(cli("kit").code == 2);
}

TEST_CASE("CLI: a raw scan, three photographs and a returned sculpt become morphs of somebody else's base") {
    Scratch scratch;
    const std::string kit = demo("bases/orrin"), j = demo("subjects/juniper/juniper"), in = " --kit " + kit + " ";
    const std::string scan = demo("subjects/ottoline/ottoline_scan.glb");
    REQUIRE(cli("detect " + scan + in + "--out " + (scratch / "marks.json")).code == 0);
    const Run wrap = cli("wrap" + in + "--source " + scan + " --landmarks " + (scratch / "marks.json") + " --out " +
                         (scratch / "scan.obj") + " --report " + (scratch / "report.json") + " --json");
    REQUIRE(wrap.code == 0);
    CHECK(Json::parse(scratch.read("report.json"))["surface_mm"]["regions"]["face"]["median"].get<double>() < 0.15);
    const Run photos =
        cli("photo-head" + in + "--photo " + j + "_front.jpg --photo " + j + "_three_quarter.jpg --photo " + j +
            "_side.jpg --marks - --marks - --marks " + j + "_side_marks.json --out " + (scratch / "photos.obj"));
    REQUIRE(photos.code == 0);
    for (const char* name : {"scan", "photos"})
        REQUIRE(cli("morph make" + in + "--shape " + (scratch / (std::string(name) + ".obj")) + " --name " + name +
                    " --out " + (scratch / (std::string(name) + ".json")))
                    .code == 0);
    // out to be sculpted, damaged on the way, and back
    REQUIRE(cli("send" + in + "--out " + (scratch / "out.obj") + " --unit cm --up +Z --for nose").code == 0);
    REQUIRE(std::system((std::string(VELDSTONE_BUILD) + "/bin/sculpt-standin " + (scratch / "out.obj") + " " +
                         (scratch / "out.obj") + " --sculpt nose --damage reorder --damage metres >/dev/null")
                            .c_str()) == 0);
    const Run back = cli("return-check" + in + (scratch / "out.obj") + " --name sculpt --out " +
                         (scratch / "sculpt.json") + " --json");
    REQUIRE(back.code == 0);
    CHECK(back.json()["leftovers"].empty());

    // all three out again, in the vertices, order, unit and joints of the base's own file
    std::string morphs;
    for (const char* name : {"scan", "photos", "sculpt"})
        morphs += " --morph " + (scratch / (std::string(name) + ".json"));
    REQUIRE(cli("morph export" + in + morphs + " --out " + (scratch / "all.glb")).code == 0);
    REQUIRE(cli("morph export" + in + morphs + " --each --format obj --out " + (scratch / "each")).code == 0);
    const auto own = read_mesh(kit + "/original.glb"), out = read_mesh(scratch / "all.glb");
    REQUIRE(own);
    REQUIRE(out);
    CHECK(out->mesh.corner_vertex == own->mesh.corner_vertex);
    REQUIRE(out->mesh.positions.size() == own->mesh.positions.size());
    double moved = 0;
    for (std::size_t v = 0; v < own->mesh.positions.size(); ++v)
        moved = std::max(moved, (out->mesh.positions[v] - own->mesh.positions[v]).norm());
    CHECK(moved < 1e-6);
    CHECK(out->skin->weights.weight == own->skin->weights.weight);
    REQUIRE(out->targets.size() == own->targets.size() + 3);
    const auto read = read_base_kit(kit);
    REQUIRE(read);
    for (std::size_t i = 0; i < 3; ++i) {
        const FileTarget& target = out->targets[own->targets.size() + i];
        CAPTURE(target.name);
        const auto morph = read_morph(scratch / (target.name + ".json"), *read);
        const auto shape = read_mesh(scratch / ("each/" + target.name + ".obj"));
        REQUIRE(morph);
        REQUIRE(shape);
        REQUIRE(shape->mesh.positions.size() == own->mesh.positions.size());
        CHECK(morph->index.size() > 100);
        const Points whole = mix_morphs(read->mesh.positions, {{&*morph, 1.0}});
        double off = 0;
        for (std::size_t v = 0; v < whole.size() && v < own->mesh.positions.size(); ++v) {
            const Vec3 wanted = whole[read->original->work_of[v]];
            off = std::max(off, (read->original->to_kit(own->mesh.positions[v] + target.delta[v]) - wanted).norm());
            off = std::max(off, (read->original->to_kit(shape->mesh.positions[v]) - wanted).norm());
        }
        CHECK(off < 0.01);
    }
}

TEST_CASE("CLI: a base as OBJ with its rig as GLB, and a mesh of fewer vertices") {
    Scratch scratch;
    const std::string standin = std::string(VELDSTONE_BUILD) + "/bin/base-standin " + kKit + " ";
    const std::string base = scratch / "base.obj", rig = scratch / "rig.glb", low = scratch / "low.obj",
                      out = scratch / "kit";
    const auto made_up = [&](const std::string& file, const std::string& options) {
        return std::system((standin + file + " 15 --bust" + options + " >/dev/null").c_str());
    };
    REQUIRE(made_up(base, " --edge 5") == 0);
    REQUIRE(made_up(rig, " --edge 5 --rigged") == 0);
    REQUIRE(made_up(low, " --edge 9") == 0);
    const std::string make = "kit make " + base + " --model " + kKit + " --out " + out;
    const Run made =
        cli(make + " --skeleton " + rig + " --reduced low=" + low + " --goes-with tongue=upper_jaw --json");
    REQUIRE(made.code == 0);
    CHECK(made.json()["own_joints"].get<int>() > 50);
    const Run shown = cli("kit show " + out + " --json");
    REQUIRE(shown.code == 0);
    const Json json = shown.json();
    CHECK(json["own_joints"].size() == made.json()["own_joints"].get<std::size_t>());
    CHECK(json["roles"]["jaw"] == "jaw bone");
    CHECK(json["goes_with"]["tongue"] == "upper_jaw");
    REQUIRE(json["reduced"].size() == 1);
    CHECK(json["reduced"][0]["median_mm"].get<double>() < 0.5);
    // joints under their own names, and the reduced version beside
    const auto kit = read_base_kit(out);
    REQUIRE(kit);
    Points longer = kit->mesh.positions;
    for (const Index v : kit->region("face")) longer[v].z() += 2;
    scratch.write("shape.json", morph_text(*make_morph(*kit, longer, "longer")));
    REQUIRE(cli("morph export --kit " + out + " --morph " + (scratch / "shape.json") + " --reduced --out " +
                (scratch / "out.glb"))
                .code == 0);
    const auto first = read_mesh(scratch / "out.glb"), second = read_mesh(scratch / "out_low.glb"),
               low_mesh = read_mesh(low);
    REQUIRE(first);
    REQUIRE(second);
    CHECK(first->skin->joints.size() == json["own_joints"].size());
    REQUIRE(second->targets.size() == 1);
    CHECK(second->mesh.corner_vertex.size() >= low_mesh->mesh.corner_vertex.size());
    REQUIRE(cli("kit edit " + out + " --goes-with tongue=lower_jaw --reduced low= --reduced half=" + low).code == 0);
    CHECK(read_base_kit(out)->reduced[0].name == "half");
    REQUIRE(cli("kit export " + out + " --reduced --out " + (scratch / "back.obj")).code == 0);
    const auto half = read_mesh(scratch / "back_half.obj");
    REQUIRE(half);
    for (std::size_t v = 0; v < half->mesh.positions.size(); v += 11)
        CHECK((half->mesh.positions[v] - low_mesh->mesh.positions[v]).norm() < 1e-4);
    for (const std::string& wrong :
         {" --skeleton " + base, " --skeleton " + (scratch / "none.glb"), std::string(" --reduced low"),
          " --reduced low=" + kKit + "/expressions/none.obj", std::string(" --goes-with tongue=tail")}) {
        CAPTURE(wrong);
        CHECK(cli(make + wrong).code == 1);
    }
    CHECK(cli("kit edit " + out + " --goes-with tongue").code == 1);
    CHECK(cli("kit edit " + out + " --reduced none=").code == 1);
    CHECK(cli("send --kit " + demo("bases/orrin") + " --pose T --out " + (scratch / "t.obj")).code == 0);
    CHECK(cli("send --kit " + out + " --pose T --out " + (scratch / "t.obj")).code == 1);  // a bust has no arms
    CHECK_FALSE(json.contains("rest_poses"));
}
