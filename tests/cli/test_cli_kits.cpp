// The command line: base kits made, checked and shown.
#include <catch2/catch.hpp>

#include "core/kit/base_kit.h"
#include "tests/cli/run_cli.h"

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
