// The command line: landmarks found, heads from photographs.
#include <catch2/catch.hpp>

#include "tests/cli/run_cli.h"

TEST_CASE("CLI: detect finds landmarks on a scan and on a photograph, and keeps what a person set") {
    Scratch scratch;
    const Run scan = cli("detect " + kScan + " --kit " + kKit + " --out " + (scratch / "l.json") + " --json");
    REQUIRE(scan.code == 0);
    CHECK(scan.json()["evaluations"].get<int>() <= 60);
    CHECK(scan.json()["left_out"].contains("vertex"));  // under the cap, which is no skin
    const auto found = read_landmarks(scratch / "l.json"), truth = read_landmarks(kMarks);
    REQUIRE(found);
    REQUIRE(found->set.unit == Unit::Metre);
    for (const char* name : {"exocanthion_l", "pronasale", "cheilion_r"})
        CHECK(1000 * (found->set.points.at(name) - truth->set.points.at(name)).norm() < 3);
    SECTION("a wrap starts from it") {
        scratch.write("quick.json", R"({"levels":4,"iterations":1})");
        REQUIRE(cli("wrap --kit " + kKit + " --source " + kScan + " --landmarks " + (scratch / "l.json") +
                    " --settings " + (scratch / "quick.json") + " --out " + (scratch / "f.obj"))
                    .code == 0);
    }
    SECTION("points by hand are kept") {
        scratch.write("mine.json",
                      R"({"format":"veldstone-landmarks","version":1,"unit":"m","points":{"pronasale":[1,2,3]}})");
        REQUIRE(cli("detect " + kScan + " --kit " + kKit + " --keep " + (scratch / "mine.json") + " --out " +
                    (scratch / "k.json"))
                    .code == 0);
        CHECK(read_landmarks(scratch / "k.json")->set.points.at("pronasale") == Vec3(1, 2, 3));
    }
    const Run photo = cli("detect " + demo("subjects/juniper/juniper_three_quarter.jpg") + " --kit " + kKit +
                          " --out " + (scratch / "p.json") + " --report");
    REQUIRE(photo.code == 0);
    CHECK(photo.out.find("turned away") != std::string::npos);
    CHECK(photo.out.find("outline") == std::string::npos);
    // nobody's eyes are seen from the side: the outline is, and what is said is how rough that is
    const Run side = cli("detect " + demo("subjects/juniper/juniper_side.jpg") + " --kit " + kKit + " --out " +
                         (scratch / "s.json") + " --json");
    REQUIRE(side.code == 0);
    CHECK(side.json()["by_outline"] == true);
    CHECK(side.json()["trust"]["gonion_l"].is_null() != side.json()["trust"]["gonion_r"].is_null());
    CHECK(std::filesystem::exists(scratch / "s.json"));
    const auto wall = encode_png({320, 400, std::vector<std::uint8_t>(320 * 400 * 4, 180)});
    scratch.write("wall.png", {wall.begin(), wall.end()});
    const Run none =
        cli("detect " + (scratch / "wall.png") + " --kit " + kKit + " --out " + (scratch / "n.json") + " --json");
    REQUIRE(none.code == 1);
    CHECK(none.json()["error"]["code"] == "not_found");
    CHECK_FALSE(std::filesystem::exists(scratch / "n.json"));
    scratch.write("no.jpg", "this is no photograph");
    REQUIRE(cli("detect " + (scratch / "no.jpg") + " --kit " + kKit + " --out " + (scratch / "n.json")).code == 1);
    REQUIRE(cli("detect /nowhere.ply --kit " + kKit + " --out " + (scratch / "n.json")).code == 1);
}

TEST_CASE("CLI: photographs become a head with its report and skin, two heads are blended") {
    const Scratch scratch;
    const std::string j = demo("subjects/juniper/juniper");
    const std::string fit = "photo-head --kit " + kKit + " --photo " + j + "_front.jpg --photo " + j +
                            "_three_quarter.jpg --photo " + j + "_side.jpg --marks - --marks - --marks " + j +
                            "_side_marks.json";
    const std::string heads = std::string(VELDSTONE_BUILD) + "/bin/heads-standin --kit " + kKit + " --out " +
                              (scratch / "heads") + " --count 2 >/dev/null";
    REQUIRE(std::system(heads.c_str()) == 0);
    const Run run =
        cli(fit + " --heads " + (scratch / "heads/head_01.morph") + " --heads " + (scratch / "heads/head_02.morph") +
            " --eyes-mm 68 --out " + (scratch / "fit.obj") + " --report " + (scratch / "r.json") + " --skin " +
            (scratch / "skin.png") + " --skin-size 256 --json");
    REQUIRE(run.code == 0);
    const Json r = run.json();
    REQUIRE(r["photos"].size() == 3);
    // true cameras: 85, 70 and 50 mm; 0, 40 and 90 degrees
    const double lens[] = {85, 70, 50}, yaw[] = {0, 40, 90};
    for (std::size_t i = 0; i < 3; ++i) {
        CHECK(r["photos"][i]["camera"]["focal_35mm"].get<double>() == Approx(lens[i]).epsilon(0.05));
        CHECK(r["photos"][i]["camera"]["yaw"].get<double>() == Approx(yaw[i]).margin(2.5));
        CHECK(r["photos"][i]["landmark_share_of_eyes"].get<double>() < 0.025);
    }
    CHECK(r["photos"][2]["grade"] == "usable");  // no face is found there, a person marked it
    CHECK(r["figures"]["flipped_faces"] == 0);
    CHECK(r["skin"]["from_photos"].get<double>() > 0.3);
    CHECK(r["seen"]["face"]["by_more"].get<double>() > 0.3);
    const auto mesh = read_mesh(scratch / "fit.obj");
    REQUIRE(mesh);
    CHECK(mesh->mesh.positions.size() == demo_kit()->mesh.positions.size());
    const Run both = cli("photo-blend " + (scratch / "fit.obj") + " " + kKit + "/figure.obj --kit " + kKit +
                         " --share 0.5 --out " + (scratch / "both.obj") + " --skin-a " + (scratch / "skin.png") +
                         " --skin-b " + kKit + "/textures/bram_head.jpg --skin " + (scratch / "both.png"));
    REQUIRE(both.code == 0);
    const auto blended = read_mesh(scratch / "both.obj");
    REQUIRE(blended);
    const Index tip = demo_kit()->landmarks.at("pronasale").vertices[0];
    CHECK((blended->mesh.positions[tip] - 0.5 * (mesh->mesh.positions[tip] + demo_kit()->mesh.positions[tip])).norm() <
          1e-3);
}

TEST_CASE("CLI: a portrait from the side is marked by its outline") {
    const Scratch scratch;
    const Run run = cli("detect " + demo("subjects/juniper/juniper_side.jpg") + " --kit " + kKit + " --out " +
                        (scratch / "side.json") + " --json");
    REQUIRE(run.code == 0);
    CHECK(run.json()["yaw_degrees"].get<double>() == Approx(90).margin(7));
    const std::string file = demo("subjects/juniper/juniper_side_marks.json");
    const auto right = parse_photo_marks(read_file(file)->view(), file),
               found = parse_photo_marks(read_file(scratch / "side.json")->view(), "side.json");
    REQUIRE(found);
    const double head = (right->points.at("gnathion") - right->points.at("sellion")).norm();
    for (const char* name : {"sellion", "pronasale", "gnathion"}) {
        if (found->points.contains(name)) CHECK((found->points.at(name) - right->points.at(name)).norm() < 0.1 * head);
    }
    CHECK(found->points.contains("pronasale"));
}

TEST_CASE("CLI: photographs that cannot become a head are refused with what to do") {
    const Scratch scratch;
    const std::string out = " --out " + (scratch / "fit.obj") + " --json";
    Run run = cli("photo-head --kit " + kKit + " --photo /nowhere.jpg" + out);
    CHECK(run.code == 1);
    CHECK(run.json()["error"]["message"].get<std::string>().find("/nowhere.jpg") != std::string::npos);
    run = cli("photo-head --kit " + kKit + " --photo " + kKit + "/figure.json" + out);
    CHECK(run.code == 1);
    CHECK(run.json()["error"]["message"].get<std::string>().find("figure.json") != std::string::npos);
    const auto wall = encode_png({300, 300, std::vector<std::uint8_t>(300 * 300 * 4, 170)});
    scratch.write("wall.png", {wall.begin(), wall.end()});
    run = cli("photo-head --kit " + kKit + " --photo " + (scratch / "wall.png") + out);  // no face, no marks
    CHECK(run.code == 1);
    CHECK(run.json()["error"]["message"].get<std::string>().find("four landmarks") != std::string::npos);
    run = cli("photo-head --kit " + kKit + " --photo " + (scratch / "wall.png") + " --marks - --marks -" + out);
    CHECK(run.code == 1);
    CHECK(run.json()["error"]["message"].get<std::string>().find("more --marks") != std::string::npos);
    run = cli("photo-head --kit " + kKit + " --photo " + demo("subjects/juniper/juniper_front.jpg") + " --marks " +
              demo("subjects/juniper/juniper.json") + out);
    CHECK(run.code == 1);
    CHECK(cli("photo-head --kit " + kKit + out).code == 2);
}
