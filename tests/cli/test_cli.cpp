// The command line as a user calls it.
#include <catch2/catch.hpp>

#include "tests/cli/run_cli.h"

TEST_CASE("CLI: wrong use is 2, refused is 1 with a reason, help is 0") {
    REQUIRE(cli("").code == 2);
    REQUIRE(cli("wrap --kit x").code == 2);
    REQUIRE(cli("wrap --kit a --source b --landmarks c --out d --part leg").code == 2);
    REQUIRE(cli("frobnicate").code == 2);
    REQUIRE(cli("--help").code == 0);
    const Run refused = cli("inspect /nowhere.obj --json");
    REQUIRE(refused.code == 1);
    REQUIRE(refused.json()["error"]["code"] == "io");
    REQUIRE(refused.json()["error"]["message"].get<std::string>().find("/nowhere.obj") != std::string::npos);
}

// Subcommands as a help lists them, an indented line each.
std::vector<std::string> subcommands_of(const std::string& help) {
    std::vector<std::string> out;
    const std::size_t at = help.find("\nSubcommands:\n");
    if (at == std::string::npos) return out;
    std::istringstream lines(help.substr(at + 14));
    for (std::string line; std::getline(lines, line);) {
        if (line.size() > 2 && line[0] == ' ' && line[1] == ' ' && line[2] != ' ')
            out.push_back(line.substr(2, line.find(' ', 2) - 2));
    }
    return out;
}

TEST_CASE("CLI: every subcommand shows an example, and the quick ones do what they say") {
    Scratch scratch;
    CHECK(cli("--version").out.starts_with("veldstone "));
    std::vector<std::string> leaves;
    for (const std::string& name : subcommands_of(cli("--help").out)) {
        const auto below = subcommands_of(cli(name + " --help").out);
        for (const std::string& one : below) leaves.push_back(name + " " + one);
        if (below.empty()) leaves.push_back(name);
    }
    REQUIRE(leaves.size() == 39);
    // those that take long have tests of their own
    const std::set<std::string> slow{"detect",      "wrap",       "photo-head", "photo-blend",
                                     "project fit", "kit make",   "kit carry",  "expressions scan",
                                     "skin layers", "skin clean", "skin match"};
    std::map<std::string, std::string> example;
    for (const std::string& leaf : leaves) {
        const std::string help = cli(leaf + " --help").out, start = "veldstone-cli " + leaf + " ";
        const std::size_t at = help.find("Example:");
        INFO(leaf);
        REQUIRE(at != std::string::npos);
        const std::size_t from = help.find(start, at);
        REQUIRE(from != std::string::npos);
        std::string line = help.substr(from + 14);
        line = line.substr(0, line.find('\n'));
        for (std::size_t p; (p = line.find("OUT/")) != std::string::npos;) line.replace(p, 4, scratch / "");
        for (std::size_t p = 0; (p = line.find(" demo/", p)) != std::string::npos; ++p)
            line.replace(p, 6, " " + demo(""));
        example[leaf] = line;
    }
    for (const char* first : {"morph make", "project make", "morph export"}) REQUIRE(cli(example.at(first)).code == 0);
    for (const auto& [leaf, line] : example) {
        if (slow.contains(leaf)) continue;
        INFO(line);
        CHECK(cli(line).code == 0);
    }
}

TEST_CASE("CLI: inspect tells what is in a file") {
    const Json scan = cli("inspect --json " + kScan).json();
    REQUIRE(scan["triangles"] == 153277);
    REQUIRE(scan["likely_unit"] == "m");
    REQUIRE(scan["components"] == 220);
    REQUIRE(scan["doubled_vertices"].get<int>() > 10000);
    REQUIRE(cli("inspect --json " + kKit).json()["landmarks"] == 108);
    REQUIRE(cli("inspect --json " + kMarks).json()["points"] == 51);
    REQUIRE(cli("inspect " + demo("subjects/bram/bram_scan.ply")).out.find("likely in cm") != std::string::npos);
}

TEST_CASE("CLI: from a raw scan to a morph target") {
    Scratch scratch;
    const std::string common = "wrap --kit " + kKit + " --source " + kScan + " --landmarks " + kMarks;
    const Run wrap = cli(common + " --out " + (scratch / "fit.obj") + " --report " + (scratch / "r.json") + " --json");
    REQUIRE(wrap.code == 0);
    const Json report = Json::parse(scratch.read("r.json"));
    REQUIRE(report["surface_mm"]["regions"]["face"]["median"].get<double>() <= 0.15);
    REQUIRE(report["flipped_faces"] == 0);
    REQUIRE(report["self_intersections"] == 0);
    for (const char* key : {"coverage", "distortion", "seconds", "peak_memory_mb", "settings"})
        REQUIRE(report.contains(key));
    REQUIRE(report["landmark_mm"]["per_point"].size() ==
            48);  // 51 without the pupils (on the eyes) and the neck bone (below the seam)
    REQUIRE(report["placement"]["unit"] == "m");
    // memory: at most four times the scan's own arrays plus 300 MB
#ifndef __SANITIZE_ADDRESS__  // its shadow memory is not ours
    const auto scan = read_mesh(kScan);
    const double arrays =
        static_cast<double>(scan->mesh.positions.size() * (24 + 16) + scan->mesh.corner_vertex.size() * 8 +
                            scan->mesh.images[0].bytes.size()) /
        1e6;
    CHECK(report["peak_memory_mb"].get<double>() <= 4 * arrays + 300);
#endif

    REQUIRE(cli("morph make --kit " + kKit + " --shape " + (scratch / "fit.obj") + " --name Ottoline --out " +
                (scratch / "o.json"))
                .code == 0);
    REQUIRE(cli("morph export --kit " + kKit + " --morph " + (scratch / "o.json") + " --out " + (scratch / "o.obj"))
                .code == 0);
    const auto fit = read_mesh(scratch / "fit.obj"), back = read_mesh(scratch / "o.obj");
    for (std::size_t v = 0; v < fit->mesh.positions.size(); ++v)
        REQUIRE((fit->mesh.positions[v] - back->mesh.positions[v]).norm() < 2e-4);
    REQUIRE(
        cli("morph export --kit " + kKit + " --morph " + (scratch / "o.json") + "=0.5 --out " + (scratch / "o.glb"))
            .code == 0);
    REQUIRE(read_mesh(scratch / "o.glb"));
    SECTION("refusals") {
        REQUIRE(
            cli("morph export --kit " + kKit + " --morph " + (scratch / "o.json") + " --out " + (scratch / "o.doc"))
                .code == 1);
        REQUIRE(cli("morph export --kit " + kKit + " --morph " + (scratch / "o.json") + "=much --out " +
                    (scratch / "o.obj"))
                    .code == 1);
        REQUIRE(
            cli("morph make --kit " + kKit + " --shape " + kScan + " --name x --out " + (scratch / "x.json")).code ==
            1);
    }
}

TEST_CASE("CLI: a raw scan is wrapped without anybody's landmarks, and what is doubted is said") {
    Scratch scratch;
    const std::string quick = scratch.write("quick.json", R"({"levels":5,"iterations":1})");
    const std::string common = "wrap --kit " + kKit + " --settings " + quick + " --out " + (scratch / "fit.obj");
    const Run done = cli(common + " --source " + kScan + " --keep-landmarks " + (scratch / "marks.json") +
                         " --report " + (scratch / "r.json"));
    REQUIRE(done.code == 0);
    REQUIRE(done.out.find("landmarks were found") != std::string::npos);
    const Json report = Json::parse(scratch.read("r.json"));
    REQUIRE(report["found"]["expected_mm"].size() > 40);
    REQUIRE(report["found"]["not_skin"].contains("share"));
    REQUIRE(report["found"].contains("lids"));
    for (const auto& [eye, state] : report["found"]["lids"].items())
        CHECK((state == "open" || state == "half" || state == "shut"));
    // her cap was left out: her skull is guessed, and the report says so
    REQUIRE(report["doubts"].contains("skull"));
    CHECK(report["doubts"]["skull"]["guessed"].get<double>() > 0.3);
    CHECK(report["doubts"]["face"]["wrong"].get<double>() < 0.3);
    REQUIRE(report["placement"]["unit"] == "m");
    const auto marks = read_landmarks(scratch / "marks.json");
    REQUIRE(marks);
    REQUIRE(marks->set.points.size() == report["found"]["expected_mm"].size());
    REQUIRE(read_mesh(scratch / "fit.obj"));
    // nothing to find them on, or both at once
    REQUIRE(cli(common + " --preset landmarks-only").code != 0);
    REQUIRE(cli("wrap --kit " + kKit + " --preset landmarks-only --out " + (scratch / "x.obj")).code == 1);
    REQUIRE(cli(common + " --source " + kScan + " --landmarks " + kMarks + " --keep-landmarks x.json").code == 2);
}

TEST_CASE("CLI: a fit in the source's frame lies on the scan, whatever axis is up") {
    Scratch scratch;
    const std::string quick = scratch.write("quick.json", R"({"levels":5,"iterations":1})");
    const std::string common = "wrap --kit " + kKit + " --landmarks " + kMarks + " --source " + kScan +
                               " --settings " + quick + " --frame source";
    REQUIRE(cli(common + " --out " + (scratch / "a.obj")).code == 0);
    REQUIRE(cli(common + " --up +Z --out " + (scratch / "b.obj")).code == 0);
    const auto a = read_mesh(scratch / "a.obj"), b = read_mesh(scratch / "b.obj");
    const auto marks = read_landmarks(kMarks);
    const SurfacePoint nose = demo_kit()->landmarks.at("pronasale");
    REQUIRE((nose.at(a->mesh.positions) - marks->set.points.at("pronasale")).norm() < 0.002);  // metres
    for (Index v : demo_kit()->region("face")) REQUIRE((a->mesh.positions[v] - b->mesh.positions[v]).norm() < 1e-5);
}

TEST_CASE("CLI: swapped sides are refused, and --swap-sides repairs them") {
    Scratch scratch;
    const auto marks = read_landmarks(kMarks);
    const std::string swapped = scratch.write("swapped.json", landmarks_text(swap_sides(marks->set)));
    const std::string quick = scratch.write("quick.json", R"({"levels":3,"iterations":1})");
    const std::string common = "wrap --kit " + kKit + " --source " + kScan + " --landmarks " + swapped +
                               " --settings " + quick + " --out " + (scratch / "f.obj");
    const Run refused = cli(common + " --json");
    REQUIRE(refused.code == 1);
    REQUIRE(refused.json()["error"]["message"].get<std::string>().find("--swap-sides") != std::string::npos);
    REQUIRE_FALSE(std::filesystem::exists(scratch / "f.obj"));
    REQUIRE(cli(common + " --swap-sides").code == 0);
}

TEST_CASE("CLI: places that cannot be written are refused") {
    const std::string quick = "--kit " + kKit + " --shape " + demo("returns/warden_clean.obj") + " --name w --out ";
    REQUIRE(cli("morph make " + quick + "/proc/nothing/m.json").code == 1);
    REQUIRE(cli("morph make " + quick + "/dev/full").code == 1);
}

TEST_CASE("CLI: a scan is tidied by a recipe, and wrapped without what it ignores") {
    Scratch scratch;
    const std::string recipe = scratch.write("r.json",
                                             "{\"format\":\"veldstone-tidy\",\"version\":1,\"steps\":[{\"tool\":"
                                             "\"repair\"},{\"tool\":\"pieces\"},{\"tool\":\"straighten\"},"
                                             "{\"tool\":\"ignore\",\"selection\":[{\"select\":\"suggest\"}]}]}");
    const Run run = cli("tidy --recipe " + recipe + " --kit " + kKit + " --json --ignored " +
                        (scratch / "ignored.json") + " " + kScan + " " + (scratch / "clean.obj"));
    REQUIRE(run.code == 0);
    const Json said = run.json();
    REQUIRE(said["steps"].size() == 4);
    REQUIRE(said["unit"] == "m");
    REQUIRE(said["ignored_vertices"].get<std::size_t>() ==
            Json::parse(scratch.read("ignored.json"))["vertices"].size());
    const auto clean = read_mesh(scratch / "clean.obj");
    REQUIRE(clean);
    REQUIRE(clean->mesh.images.size() == 1);                         // the texture went along
    REQUIRE(bounding_box(clean->mesh.positions).size().norm() < 2);  // metres, as it came
    const Json survey = cli("inspect --json " + (scratch / "clean.obj")).json();
    REQUIRE(survey["components"] == 1);
    REQUIRE(survey["non_manifold_edges"] == 0);
    REQUIRE(
        cli("tidy --step straighten --frame upright --kit " + kKit + " " + kScan + " " + (scratch / "up.ply")).code ==
        0);
    REQUIRE(bounding_box(read_mesh(scratch / "up.ply")->mesh.positions).high.y() > 1500);  // mm

    REQUIRE(cli("wrap --kit " + kKit + " --source " + kScan + " --landmarks " + kMarks + " --tidy " + recipe +
                " --out " + (scratch / "fit.obj") + " --report " + (scratch / "fit.json"))
                .code == 0);
    const Json report = Json::parse(scratch.read("fit.json"));
    REQUIRE(report["surface_mm"]["regions"]["face"]["median"].get<double>() <= 0.15);
    REQUIRE(report["flipped_faces"] == 0);

    REQUIRE(cli("tidy --tools --json").json().size() > 15);
    REQUIRE(cli("tidy " + kScan).code == 2);
    REQUIRE(cli("tidy --step iron " + kScan + " " + (scratch / "x.obj")).code == 1);
    REQUIRE(cli("tidy " + kScan + " " + (scratch / "x.obj")).code == 1);
    REQUIRE(cli("tidy --step weld:distance=-1 " + kScan + " " + (scratch / "x.obj")).code == 1);
    REQUIRE(cli("tidy --step straighten " + kScan + " " + (scratch / "x.obj")).code == 1);  // no kit
    REQUIRE(cli("tidy --step repair " + kScan + " /proc/none/x.obj").code == 1);
    REQUIRE_FALSE(std::filesystem::exists(scratch / "x.obj"));
}

TEST_CASE("CLI: Ctrl-C stops a wrap and a search on a photograph, and nothing is written") {
    Scratch scratch;
    const std::string out = scratch / "out", side = demo("subjects/juniper/juniper_side.jpg");
    const std::vector<std::string> jobs[] = {
        {"wrap", "--kit", kKit, "--source", kScan, "--landmarks", kMarks, "--out", out},
        {"detect", side, "--kit", kKit, "--out", out}};
    for (const std::vector<std::string>& job : jobs) {
        INFO(job.front());
        const pid_t child = ::fork();
        if (child == 0) {
            const std::string program = std::string(VELDSTONE_BUILD) + "/bin/veldstone-cli";
            std::vector<char*> words{const_cast<char*>(program.c_str())};
            for (const std::string& word : job) words.push_back(const_cast<char*>(word.c_str()));
            words.push_back(nullptr);
            (void)!::freopen("/dev/null", "w", stderr);
            ::execv(program.c_str(), words.data());
            ::_exit(99);
        }
        REQUIRE(catches_interrupts(child));
        ::usleep(900000);
        ::kill(child, SIGINT);
        int status = 0;
        ::waitpid(child, &status, 0);
        REQUIRE(WIFEXITED(status));
        CHECK(WEXITSTATUS(status) == 1);
        CHECK_FALSE(std::filesystem::exists(out));
    }
}

TEST_CASE("CLI: the stand-in delivers the same person for the same seed") {
    Scratch scratch;
    const auto capture = [&](const std::string& arguments) {
        return std::system((std::string(VELDSTONE_BUILD) + "/bin/capture-standin --kit " + kKit +
                            " --pause 0 --density 1 " + arguments + " >/dev/null 2>&1")
                               .c_str());
    };
    for (const char* folder : {"a", "b"})
        REQUIRE(capture("--seed 3 --defects holes,components,noise,tilt,stand,spikes,flipped,seams --out " +
                        (scratch / folder)) == 0);
    REQUIRE(scratch.read("a/capture_3.obj") == scratch.read("b/capture_3.obj"));
    REQUIRE(capture("--seed 4 --format glb --defects none --out " + (scratch / "a")) == 0);
    const auto glb = read_mesh(scratch / "a/capture_4.glb");
    REQUIRE(glb);
    REQUIRE(glb->mesh.images.size() == 1);
    REQUIRE(capture("--seed 4 --what photos --out " + (scratch / "a")) == 0);
    REQUIRE(std::filesystem::exists(scratch / "a/portraits_4/three_quarter.png"));
    REQUIRE(capture("--seed 4 --out /proc/none") != 0);
}

TEST_CASE("CLI: two shapes are compared") {
    Scratch scratch;
    const std::string base = demo("kit/figure.obj"), smile = demo("kit/expressions/smile.obj");
    const Json with =
        cli("compare " + base + " " + smile + " --kit " + kKit + " --report " + (scratch / "r.json") + " --json")
            .json();
    CHECK(with["same_topology"] == true);
    CHECK(with["moved_mm"]["regions"]["lips"]["max"].get<double>() > 5);
    CHECK(with["moved_mm"]["regions"]["foot_l"]["max"].get<double>() == 0);
    CHECK(Json::parse(scratch.read("r.json"))["flipped_faces"] == with["flipped_faces"]);
    const Run surfaces = cli("compare " + base + " " + smile);
    REQUIRE(surfaces.code == 0);
    CHECK(surfaces.out.find("second from first") != std::string::npos);
    CHECK(cli("compare " + base + " /nowhere.obj").code == 1);
    CHECK(cli("compare " + base).code == 2);
    CHECK(cli("compare " + base + " " + smile + " --align sideways").code == 2);
}

TEST_CASE("CLI: presets, landmarks alone, and refusals that name what there is") {
    Scratch scratch;
    const std::string common = "wrap --kit " + kKit + " --landmarks " + kMarks + " --out " + (scratch / "f.obj");
    const Run alone = cli(common + " --preset landmarks-only --json");
    REQUIRE(alone.code == 0);
    CHECK(alone.json()["surface_mm"]["vertices"] == 0);
    CHECK(alone.json()["flipped_faces"] == 0);
    const auto refusal = [](const std::string& arguments) {
        const Run run = cli(arguments + " --json");
        CHECK(run.code == 1);
        return run.json()["error"]["message"].get<std::string>();
    };
    CHECK(refusal(common).find("--preset landmarks-only") != std::string::npos);
    CHECK(refusal(common + " --source " + kScan + " --preset cat").find("stylised") != std::string::npos);
    CHECK(cli(common + " --source " + kScan + " --preset stylised --settings x.json").code != 0);
}
