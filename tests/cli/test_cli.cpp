// The command line as a user calls it.
#include <catch2/catch.hpp>

#include <sys/wait.h>
#include <unistd.h>
#include <csignal>
#include <cstdio>
#include <map>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

#include "core/base/file.h"
#include "core/io/image.h"
#include "core/io/mesh_file.h"
#include "core/landmark/landmarks.h"
#include "core/landmark/photo_marks.h"
#include "core/project/store.h"
#include "tests/support/demo_kit.h"

using namespace veld;
using Json = nlohmann::json;

namespace {

struct Run {
    int code = -1;
    std::string out;
    Json json() const { return Json::parse(out, nullptr, false); }
};

Run cli(const std::string& arguments) {
    const std::string command = std::string(VELDSTONE_BUILD) + "/bin/veldstone-cli " + arguments + " 2>/dev/null";
    FILE* pipe = ::popen(command.c_str(), "r");
    Run run;
    char buffer[4096];
    while (const std::size_t n = std::fread(buffer, 1, sizeof buffer, pipe)) run.out.append(buffer, n);
    const int status = ::pclose(pipe);
    run.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    return run;
}

const std::string kKit = demo("kit");
const std::string kScan = demo("subjects/ottoline/ottoline_scan.glb");
const std::string kMarks = demo("subjects/ottoline/ottoline_landmarks.json");

// The command line has begun and has its handler; a sanitized one takes its time. Before that the child is a copy of
// this program, which catches interrupts as well.
bool catches_interrupts(pid_t child) {
    const std::string of = "/proc/" + std::to_string(child);
    for (int i = 0; i < 600; ++i) {
        std::error_code gone;
        const bool begun = std::filesystem::read_symlink(of + "/exe", gone).filename() == "veldstone-cli";
        std::ifstream status(of + "/status");
        for (std::string line; begun && std::getline(status, line);) {
            if (!line.starts_with("SigCgt:")) continue;
            if (std::stoull(line.substr(7), nullptr, 16) >> (SIGINT - 1) & 1u) return true;
        }
        ::usleep(50000);
    }
    return false;
}

}  // namespace

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
    REQUIRE(leaves.size() == 20);
    // those that take long have tests of their own
    const std::set<std::string> slow{"detect", "wrap", "photo-head", "photo-blend", "project fit"};
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

TEST_CASE("CLI: detect finds landmarks on a scan and on a photograph, and keeps what a person set") {
    Scratch scratch;
    const Run scan = cli("detect " + kScan + " --kit " + kKit + " --out " + (scratch / "l.json") + " --json");
    REQUIRE(scan.code == 0);
    CHECK(scan.json()["evaluations"].get<int>() <= 60);
    CHECK(scan.json()["trust"]["vertex"]["unsure"] == true);  // under the cap
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

TEST_CASE("CLI: what comes back is checked, repaired and kept as a morph") {
    Scratch scratch;
    const std::string common = "return-check --kit " + kKit + " ";
    const Run repaired = cli(common + demo("returns/warden_reordered.obj") + " --name Warden --out " +
                             (scratch / "w.json") + " --obj " + (scratch / "w.obj") + " --json");
    REQUIRE(repaired.code == 0);
    CHECK(repaired.json()["relative"] == true);
    CHECK(repaired.json()["steps"].size() == 1);
    const auto back = read_mesh(scratch / "w.obj"), clean = read_mesh(demo("returns/warden_clean.obj"));
    REQUIRE(back);
    for (std::size_t v = 0; v < clean->mesh.positions.size(); ++v)
        REQUIRE((back->mesh.positions[v] - clean->mesh.positions[v]).norm() < 2e-4);
    const Run leftover = cli(common + demo("returns/warden_leftover.obj") + " --subtract --json");
    REQUIRE(leftover.json()["leftovers"].size() == 1);
    CHECK(leftover.json()["leftovers"][0]["amount"].get<double>() == Approx(0.6).margin(0.01));
    CHECK(cli(common + demo("returns/unrelated.obj")).code == 0);  // an answer
    CHECK(cli(common + demo("returns/unrelated.obj") + " --out " + (scratch / "u.json")).code == 1);
    CHECK_FALSE(std::filesystem::exists(scratch / "u.json"));
}

TEST_CASE("CLI: sent out, sculpted by the stand-in, damaged, and back as a morph") {
    Scratch scratch;
    const std::string standin = std::string(VELDSTONE_BUILD) + "/bin/sculpt-standin ";
    REQUIRE(cli("morph make --kit " + kKit + " --shape " + demo("kit/expressions/smile.obj") +
                " --name smile --kind expression --group expressions --out " + (scratch / "smile.json"))
                .code == 0);
    const Run sent = cli("send --kit " + kKit + " --out " + (scratch / "base.obj") + " --unit cm --up +Z --morph " +
                         (scratch / "smile.json") + "=0.5 --for nose --json");
    REQUIRE(sent.code == 0);
    CHECK(sent.json()["sent"]["morphs"][0]["amount"] == 0.5);
    REQUIRE(std::system((standin + (scratch / "base.obj") + " " + (scratch / "base.obj") +
                         " --sculpt nose --damage reorder --damage metres >/dev/null")
                            .c_str()) == 0);
    const Run back = cli("return-check --kit " + kKit + " " + (scratch / "base.obj") + " --morph " +
                         (scratch / "smile.json") + " --out " + (scratch / "nose.json") + " --json");
    REQUIRE(back.code == 0);
    CHECK(back.json()["remembered"] == true);
    CHECK(back.json()["for"] == "nose");
    CHECK(back.json()["leftovers"].empty());
    CHECK(back.json()["vertices"].get<int>() < 5000);  // the smile is out again
    CHECK(cli("send --kit " + kKit + " --out " + (scratch / "x.fbx")).code == 1);
    CHECK(cli("send --kit " + kKit + " --out " + (scratch / "x.obj") + " --scope region --of elbow").code == 1);
    CHECK(cli("send --kit " + kKit + " --out " + (scratch / "x.obj") + " --level 5").code == 2);
    CHECK(std::system((standin + "/none.obj " + (scratch / "y.obj") + " 2>/dev/null >/dev/null").c_str()) != 0);
}

TEST_CASE(
    "CLI: a return that was turned, enlarged and moved is a question, and nothing is kept before it is answered") {
    Scratch scratch;
    const std::string standin = std::string(VELDSTONE_BUILD) + "/bin/sculpt-standin ", sculpt = scratch / "sculpt.obj",
                      back = scratch / "back.obj";
    REQUIRE(std::system((standin + demo("kit/figure.obj") + " " + sculpt + " --sculpt nose >/dev/null").c_str()) == 0);
    REQUIRE(std::system((standin + sculpt + " " + back + " --sculpt none --damage rescale >/dev/null").c_str()) == 0);
    const std::string check = "return-check --kit " + kKit + " " + back + " --name Nose --json --out ";
    const Run asked = cli(check + (scratch / "asked.json"));
    CHECK(asked.code == 1);
    CHECK_FALSE(std::filesystem::exists(scratch / "asked.json"));
    CHECK(asked.out.find("--answer") != std::string::npos);
    REQUIRE(cli(check + (scratch / "taken.json") + " --answer take-out --obj " + (scratch / "taken.obj")).code == 0);
    const auto taken = read_mesh(scratch / "taken.obj"), clean = read_mesh(sculpt);
    REQUIRE(taken);
    for (std::size_t v = 0; v < clean->mesh.positions.size(); ++v)
        REQUIRE((taken->mesh.positions[v] - clean->mesh.positions[v]).norm() < 0.01);
    REQUIRE(cli(check + (scratch / "meant.json") + " --answer leave --obj " + (scratch / "meant.obj")).code == 0);
    CHECK(bounding_box(read_mesh(scratch / "meant.obj")->mesh.positions).size().y() ==
          Approx(1.7 * bounding_box(clean->mesh.positions).size().y()).epsilon(0.001));
    CHECK(cli(check + (scratch / "x.json") + " --answer perhaps").code == 2);
}

TEST_CASE("CLI: morphs are split, mixed, mirrored, halved, exported each and taken into a project") {
    Scratch scratch;
    const Run split = cli("morph split --kit " + kKit + " --shape " + demo("returns/tall_carrier.obj") +
                          " --name tall --out " + (scratch / "shares") + " --json");
    REQUIRE(split.code == 0);
    CHECK(split.json()["neck_move_mm"][1].get<double>() < -150);
    CHECK(split.json()["shares"][1]["root_mm"][1].get<double>() > 150);
    const std::string head = scratch / "shares/tall head.json", body = scratch / "shares/tall body.json";
    REQUIRE(cli("morph mix --kit " + kKit + " --morph '" + head + "' --morph '" + body + "' --out " +
                (scratch / "both.obj"))
                .code == 0);
    const auto both = read_mesh(scratch / "both.obj"), tall = read_mesh(demo("returns/tall_carrier.obj"));
    const double lifted = split.json()["lifted_mm"];
    for (std::size_t v = 0; v < tall->mesh.positions.size(); v += 13)
        REQUIRE((both->mesh.positions[v] - tall->mesh.positions[v] - Vec3(0, lifted, 0)).norm() < 1e-6);
    REQUIRE(
        cli("morph mirror --kit " + kKit + " --morph '" + head + "' --name m --out " + (scratch / "m.json")).code ==
        0);
    REQUIRE(cli("morph mirror --symmetric --from right --kit " + kKit + " --morph '" + head + "' --name m --out " +
                (scratch / "sym.json"))
                .code == 0);
    REQUIRE(
        cli("morph half --side left --kit " + kKit + " --morph '" + head + "' --name l --out " + (scratch / "l.json"))
            .code == 0);
    REQUIRE(cli("morph export --each --format csv --pattern {kind}/{name} --kit " + kKit + " --morph '" + head +
                "' --morph '" + body + "' --out " + (scratch / "lists"))
                .code == 0);
    CHECK(std::filesystem::exists(scratch / "lists/body/tall body.csv"));
    REQUIRE(cli("project make --kit " + kKit + " --out " + (scratch / "p.veldstone")).code == 0);
    const Run in = cli("morph import " + (scratch / "lists") + " --project " + (scratch / "p.veldstone") + " --json");
    REQUIRE(in.code == 0);
    CHECK(in.json().size() == 2);
    const auto project = load_project(scratch / "p.veldstone");
    REQUIRE(project);
    REQUIRE(project->state.bank.size() == 2);
    CHECK(cli("morph split --kit " + kKit + " --out " + (scratch / "none")).code == 1);
    CHECK(cli("morph mix --kit " + kKit + " --morph '" + head + "=0' --out " + (scratch / "zero.json")).code == 1);
    CHECK(cli("morph export --each --format fbx --kit " + kKit + " --morph '" + head + "' --out " + (scratch / "f"))
              .code == 1);
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
