#include <catch2/catch.hpp>

#include <fstream>
#include <nlohmann/json.hpp>

#include "core/io/obj.h"
#include "core/kit/expression_file.h"
#include "core/landmark/surface_pick.h"
#include "core/morph/morph_file.h"
#include "tests/support/demo_kit.h"
#include "tests/support/small_meshes.h"

using namespace veld;
using Json = nlohmann::json;

namespace {

// A kit of one cube, as small as a kit can be.
Json small_kit() {
    return {{"format", "veldstone-figure"},
            {"version", 1},
            {"unit", "mm"},
            {"mesh", "cube.obj"},
            {"counts", {{"vertices", 8}, {"faces", 6}}},
            {"parts", {{"skin", {{"first_face", 0}, {"faces", 6}}}}},
            {"regions", {{"face", {0, 1, 2}}}},
            {"landmarks",
             {{"pronasale", 3}, {"sellion", {{"face", 1}, {"corners", {0, 2, 3}}, {"weights", {0.5, 0.25, 0.25}}}}}},
            {"curves", {{"jaw_line", {0, 1, 3}}}},
            {"mirror", {1, 0, 3, 2, 5, 4, 7, 6}},
            {"joints",
             {{{"name", "root"}, {"parent", nullptr}, {"pos", {0, 0, 0}}},
              {{"name", "head"}, {"parent", "root"}, {"pos", {0, 1, 0}}}}},
            {"skin_weights",
             {{"root", {{"index", {0, 1, 2, 3, 4, 5, 6, 7}}, {"weight", {1, 1, 1, 1, 0.5, 0.5, 1, 1}}}},
              {"head", {{"index", {4, 5}}, {"weight", {0.5, 0.5}}}}}},
            {"expressions", {{"smile", "cube.obj"}}}};
}

std::string refusal_of_kit(const Json& json) {
    Scratch scratch;
    scratch.write("cube.obj", obj_text(cube()));
    scratch.write("figure.json", json.dump());
    const auto kit = read_base_kit(scratch.folder());
    return kit ? std::string() : kit.error().message;
}

}  // namespace

TEST_CASE("Base kit: the demo kit agrees with itself") {
    const auto kit = demo_kit();
    REQUIRE(kit);
    REQUIRE(kit->parts.size() == 8);
    REQUIRE(kit->parts.front().name == "skin");
    REQUIRE(kit->landmarks.size() == 108);
    REQUIRE(kit->curves.size() == 14);  // with both lips' inner edges, which figure.json does not have
    REQUIRE(kit->joints.size() == 55);
    REQUIRE(kit->expressions.size() == 24);
    for (const SchemePoint& p : landmark_scheme().points) REQUIRE(kit->landmarks.contains(p.name));
    // mirrored vertices mirror
    for (Index v = 0; v < kit->mesh.vertex_count(); v += 97) {
        const Vec3 &p = kit->mesh.positions[v], &q = kit->mesh.positions[kit->mirror[v]];
        REQUIRE((Vec3(-p.x(), p.y(), p.z()) - q).norm() < 1e-3);
    }
}

TEST_CASE("Base kit: places on faces and on vertices are both read") {
    Scratch scratch;
    scratch.write("cube.obj", obj_text(cube()));
    scratch.write("figure.json", small_kit().dump());
    const auto kit = read_base_kit(scratch.folder());
    REQUIRE(kit);
    REQUIRE(kit->landmarks.at("pronasale").at(kit->mesh.positions) == kit->mesh.positions[3]);
    const auto& x = kit->mesh.positions;  // face 1 is 4 5 7 6
    REQUIRE((kit->landmarks.at("sellion").at(x) - (0.5 * x[4] + 0.25 * x[7] + 0.25 * x[6])).norm() < 1e-12);
}

TEST_CASE("Base kit: what does not agree is named") {
    REQUIRE(refusal_of_kit(small_kit()).empty());
    Json j = small_kit();
    SECTION("counts") {
        j["counts"]["vertices"] = 9;
        REQUIRE(refusal_of_kit(j).find("promises 9 vertices, but cube.obj has 8") != std::string::npos);
    }
    SECTION("an index") {
        j["regions"]["face"] = {0, 8};
        REQUIRE(refusal_of_kit(j).find("region 'face'") != std::string::npos);
    }
    SECTION("the mirror map") {
        j["mirror"] = {1, 2, 0, 3, 4, 5, 6, 7};
        REQUIRE(refusal_of_kit(j).find("own inverse") != std::string::npos);
        j["mirror"] = {0};
        REQUIRE(refusal_of_kit(j).find("1 entries for 8") != std::string::npos);
    }
    SECTION("weights") {
        j["skin_weights"]["head"]["weight"] = {0.5, 0.9};
        REQUIRE(refusal_of_kit(j).find("vertex 5 add up") != std::string::npos);
        j["skin_weights"]["tail"] = {{"index", {0}}, {"weight", {1}}};
        REQUIRE(refusal_of_kit(j).find("'tail'") != std::string::npos);
    }
    SECTION("joints") {
        j["joints"][1]["parent"] = "nobody";
        REQUIRE(refusal_of_kit(j).find("does not come before it") != std::string::npos);
    }
    SECTION("barycentric weights") {
        j["landmarks"]["sellion"]["weights"] = {0.5, 0.5, 0.5};
        REQUIRE(refusal_of_kit(j).find("add up to 1.5") != std::string::npos);
    }
    SECTION("missing files, other formats, no JSON") {
        j["expressions"]["smile"] = "gone.obj";
        REQUIRE(refusal_of_kit(j).find("gone.obj") != std::string::npos);
        REQUIRE(refusal_of_kit({{"format", "else"}}).find("no base kit") != std::string::npos);
        Scratch scratch;
        scratch.write("figure.json", "{\"format\":");
        REQUIRE(read_base_kit(scratch.folder()).error().message.find("no complete JSON") != std::string::npos);
        REQUIRE(read_base_kit(scratch / "nowhere").error().code == ErrorCode::Io);
    }
    SECTION("no part of it may be of the wrong kind") {
        const Json whole = small_kit();
        for (const auto& [key, value] : whole.items()) {
            for (const Json& wrong :
                 {Json(nullptr), Json(-1), Json("x"), Json::array({1, nullptr}), Json::object({{"a", 1}})}) {
                Json broken = whole;
                broken[key] = wrong;
                (void)refusal_of_kit(broken);  // must not crash; some keys are optional
            }
        }
    }
}

TEST_CASE("Base kit: expressions as morph files, as text and binary; those of other bases and damaged ones are told") {
    Scratch scratch;
    scratch.write("cube.obj", obj_text(cube()));
    Json figure = small_kit();
    figure["expressions"]["smile"] = "smile.morph";
    scratch.write("figure.json", figure.dump());
    Json plain = small_kit();
    plain.erase("expressions");
    scratch.write("plain.json", plain.dump());
    auto kit = read_base_kit(scratch / "plain.json");
    REQUIRE(kit);
    kit->expressions["smile"] = kit->mesh.positions;
    kit->expressions["smile"][3] += Vec3(0.25, 0, -1);
    const std::string text = expression_text(*kit, "smile");
    const auto parsed = parse_morph(text, "it", *kit);
    REQUIRE(parsed);
    for (const std::string& bytes : {text, morph_bytes(*parsed)}) {
        scratch.write("smile.morph", bytes);
        const auto again = read_base_kit(scratch.folder());
        REQUIRE(again);
        CHECK(again->expressions.at("smile") == kit->expressions.at("smile"));
        for (std::size_t cut = 0; cut + 2 < bytes.size(); cut += 23) {
            scratch.write("smile.morph", bytes.substr(0, cut));
            const auto none = read_base_kit(scratch.folder());
            REQUIRE_FALSE(none);
            CHECK(none.error().message.find("smile") != std::string::npos);
        }
    }
    for (const auto& [from, to] : std::vector<std::pair<std::string, std::string>>{{kit->topology_key, "0000"},
                                                                                   {"[3]", "[99]"},
                                                                                   {"[3]", "[3,3]"},
                                                                                   {"veldstone-morph", "other"},
                                                                                   {"0.25", "1e999"}}) {
        std::string broken = text;
        broken.replace(broken.find(from), from.size(), to);
        scratch.write("smile.morph", broken);
        CHECK_FALSE(read_base_kit(scratch.folder()));
    }
}

TEST_CASE("Landmark file: written and read again is identical") {
    const auto file = read_landmarks(demo("subjects/ottoline/ottoline_landmarks.json"));
    REQUIRE(file);
    REQUIRE(file->set.points.size() == 51);
    REQUIRE(file->set.curves.size() == 12);
    REQUIRE(file->set.unit == Unit::Metre);
    REQUIRE(file->unknown.empty());
    const auto again = parse_landmarks(landmarks_text(file->set), "again");
    REQUIRE(again);
    REQUIRE(again->set == file->set);
}

TEST_CASE("Landmark file: joints come back as they were, by hand or found; damaged ones are named") {
    LandmarkSet set;
    set.joints["shin_l"] = {{1, 2.5, -3}, true};
    set.joints["hand_r"] = {{0.125, 4, 5}, false};
    const auto again = parse_landmarks(landmarks_text(set), "again");
    REQUIRE(again);
    CHECK(again->set == set);
    CHECK(swap_sides(set).joints.at("shin_r").by_hand);
    const auto damaged =
        parse_landmarks(R"({"format":"veldstone-landmarks","version":1,"joints":{"shin_l":{"at":[1,2]}}})", "x.json");
    REQUIRE_FALSE(damaged);
    CHECK(damaged.error().message.find("joint 'shin_l'") != std::string::npos);
}

TEST_CASE("Landmark file: unknown names are kept and reported, missing ones are fine") {
    const auto f = parse_landmarks(R"({"format":"veldstone-landmarks","version":1,"points":{"scar":[1,2,3]}})", "x");
    REQUIRE(f);
    REQUIRE(f->set.points.at("scar") == Vec3(1, 2, 3));
    REQUIRE(f->unknown == std::vector<std::string>{"scar"});
    REQUIRE_FALSE(f->set.unit);
}

TEST_CASE("Landmark file: what is wrong is named") {
    const auto refusal_of_kit = [](const std::string& text) {
        return parse_landmarks(text, "l.json").error().message;
    };
    REQUIRE(refusal_of_kit("{").find("no complete JSON") != std::string::npos);
    REQUIRE(refusal_of_kit(R"({"format":"other"})").find("not a landmark file") != std::string::npos);
    REQUIRE(refusal_of_kit(R"({"format":"veldstone-landmarks","version":2})").find("version") != std::string::npos);
    REQUIRE(refusal_of_kit(R"({"format":"veldstone-landmarks","version":1,"points":{"a":[1,2]}})").find("'a'") !=
            std::string::npos);
    REQUIRE(refusal_of_kit(R"({"format":"veldstone-landmarks","version":1,"unit":"ell"})").find("unknown unit") !=
            std::string::npos);
    REQUIRE(refusal_of_kit(R"({"format":"veldstone-landmarks","version":1,"curves":{"c":[[0,0,0]]}})")
                .find("at least two") != std::string::npos);
}

TEST_CASE("Landmarks: swapping sides twice changes nothing") {
    LandmarkSet set;
    set.points = {{"tragion_l", {1, 0, 0}}, {"tragion_r", {-1, 0, 0}}, {"pronasale", {0, 0, 1}}};
    REQUIRE(swap_sides(set).points.at("tragion_r") == Vec3(1, 0, 0));
    REQUIRE(swap_sides(set).points.at("pronasale") == Vec3(0, 0, 1));
    REQUIRE(swap_sides(swap_sides(set)) == set);
}
