// The command line: projects.
#include <catch2/catch.hpp>

#include "tests/cli/run_cli.h"

TEST_CASE("CLI: a project is made and looked into") {
    Scratch scratch;
    const std::string path = scratch / "p.veldstone";
    REQUIRE(cli("project make --kit " + kKit + " --out " + path + " --subject Ottoline --source " + kScan +
                " --landmarks " + kMarks)
                .code == 0);
    const Json shown = cli("project show --json " + path).json();
    REQUIRE(shown["subjects"][0]["name"] == "Ottoline");
    REQUIRE(shown["subjects"][0]["sources"][0]["landmarks"] == 51);
    REQUIRE(cli("project show " + kMarks).code == 1);
}

TEST_CASE("CLI: subjects and photographs are added to a project") {
    Scratch scratch;
    REQUIRE(cli("project make --kit " + kKit + " --out " + (scratch / "p.veldstone")).code == 0);
    REQUIRE(cli("project add " + (scratch / "p.veldstone") + " --subject Juniper --photos " +
                demo("subjects/juniper/juniper_front.jpg") + " " + demo("subjects/juniper/juniper_side.jpg"))
                .code == 0);
    REQUIRE(cli("project add " + (scratch / "p.veldstone") + " --subject Juniper --source " +
                demo("returns/unrelated.obj"))
                .code == 0);
    const Json shown = cli("project show " + (scratch / "p.veldstone") + " --json").json();
    REQUIRE(shown["subjects"].size() == 1);
    CHECK(shown["subjects"][0]["sources"].size() == 1);
    CHECK(cli("project add " + (scratch / "p.veldstone") + " --subject X --photos /nowhere.jpg").code == 1);
}

TEST_CASE("CLI: tries in a project go on from one another") {
    Scratch scratch;
    const std::string project = scratch / "p.veldstone";
    REQUIRE(cli("project make --kit " + kKit + " --out " + project + " --subject Ottoline --source " + kScan +
                " --landmarks " + kMarks)
                .code == 0);
    CHECK(cli("project fit " + project + " --go-on").code == 1);  // there is nothing to go on from
    const std::string quick = scratch.write("quick.json", R"({"levels":4,"iterations":1})");
    const Run first = cli("project fit " + project + " --settings " + quick + " --json");
    REQUIRE(first.code == 0);
    CHECK(first.json()["solved"] == 1.0);
    auto marks = read_landmarks(kMarks)->set;
    marks.points["pronasale"] += Vec3(0.002, 0, 0);
    const std::string moved = scratch.write("moved.json", landmarks_text(marks));
    const Run second =
        cli("project fit " + project + " --settings " + quick + " --landmarks " + moved + " --go-on --json");
    REQUIRE(second.code == 0);
    CHECK(second.json()["solved"].get<double>() < 0.5);
    const Run shown = cli("project show " + project + " --json");
    REQUIRE(shown.json()["subjects"][0]["fits"].size() == 2);
    CHECK(shown.json()["subjects"][0]["fits"][1]["current"] == true);
    const auto loaded = load_project(project);
    REQUIRE(loaded);
    const auto& fits = loaded->state.current()->fits;
    for (const Index v : demo_kit()->region("ear_l")) REQUIRE((*fits[0].positions)[v] == (*fits[1].positions)[v]);
    CHECK(cli("project fit " + project + " --work-on nothing").code == 1);
    CHECK(cli("project fit " + project + " --subject Nobody").code == 1);
}
