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
