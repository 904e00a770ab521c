// Morphs in files and in the project.
#include <catch2/catch.hpp>

#include "tests/core/bank_support.h"

TEST_CASE("Morph files: every form gives the same morph back, damaged ones are refused") {
    Scratch scratch;
    Morph m = whole("Marsh / jowls", 6);
    m.group = "heads/marsh", m.kind = MorphKind::Head, m.tag = 4, m.note = "a, \"note\"\nof two lines",
    m.origin = "from a test";
    m.low = -0.5, m.high = 1.5, m.usual = 0.2, m.root = Vec3(0, 12.5, 0);
    SECTION("JSON and binary to the last bit") {
        CHECK(*parse_morph(morph_text(m), "m", kit()) == m);
        CHECK(*parse_morph(morph_bytes(m), "m", kit()) == m);
        CHECK(morph_bytes(m).size() < 1'000'000);  // every vertex moves
    }
    SECTION("cut short anywhere, or with a byte changed, it never crashes") {
        const std::string whole_file = morph_bytes(m);
        for (std::size_t cut = 0; cut < whole_file.size(); cut += 40'009)
            CHECK_FALSE(parse_morph(std::string_view(whole_file).substr(0, cut), "m", kit()));
        std::mt19937 random(3);
        for (int k = 0; k < 300; ++k) {
            std::string broken = whole_file;
            broken[random() % 400] = static_cast<char>(random());
            (void)parse_morph(broken, "m", kit());
        }
    }
    SECTION("a folder of each form, by name and group") {
        std::vector<const Morph*> list{&m};
        Morph second = whole("second", 7);
        list.push_back(&second);
        for (const MorphFormat format : {MorphFormat::Json, MorphFormat::Csv, MorphFormat::Obj, MorphFormat::Glb}) {
            const std::string folder = scratch / ("out" + std::to_string(static_cast<int>(format)));
            const auto paths = export_each(kit(), list, {format, folder, "{group}/{number}_{name}"}, {});
            REQUIRE(paths);
            CHECK((*paths)[0].find("heads/marsh/001_Marsh _ jowls") != std::string::npos);
            const auto back = import_morphs(kit(), folder, {});
            REQUIRE(back);
            REQUIRE(back->size() == 2);
            const Morph& again = back->at(0).group == "heads/marsh" ? back->at(0) : back->at(1);
            // glTF holds single precision in metres
            const double within = format == MorphFormat::Glb ? 2e-3 : 1e-6;
            CHECK(apart(mix_morphs(kit().mesh.positions, {{&again, 1}}), mix_morphs(kit().mesh.positions, {{&m, 1}})) <
                  within);
            if (format == MorphFormat::Obj) continue;  // one shape; its card is in the comments
            CHECK(again.root == m.root);
            CHECK(again.kind == m.kind);
            CHECK(again.note == m.note);
            CHECK(again.usual == m.usual);
        }
    }
    SECTION("names that meet are refused before anything is written; no name leads out of the folder") {
        const auto met = export_each(kit(), {&m, &m}, {MorphFormat::Csv, scratch / "met", "same"}, {});
        REQUIRE_FALSE(met);
        CHECK_FALSE(std::filesystem::exists(scratch / "met"));
        CHECK(file_name_of("../../{name}", m, 1) == "Marsh _ jowls");
        CHECK(file_name_of("", m, 7) == "007");
        Progress stop;
        stop.cancelled = [] { return true; };
        CHECK(export_each(kit(), {&m}, {MorphFormat::Csv, scratch / "stopped"}, stop).error().code ==
              ErrorCode::Cancelled);
    }
    SECTION("what is no morph of this base says what is wrong and where") {
        REQUIRE(write_file(scratch / "a.csv", "# name a\nvertex,dx,dy,dz\n1,0,0,1\n99999999,0,0,1\n"));
        CHECK(import_morphs(kit(), scratch / "a.csv", {}).error().message.find("line 4") != std::string::npos);
        REQUIRE(write_file(scratch / "b.csv", "1,0,zero,1\n"));
        CHECK(import_morphs(kit(), scratch / "b.csv", {}).error().message.find("four numbers") != std::string::npos);
        CHECK(import_morphs(kit(), demo("returns/warden_reordered.obj"), {}).error().message.find("return check") !=
              std::string::npos);
        CHECK(import_morphs(kit(), demo("subjects/ottoline/ottoline_scan.glb"), {})
                  .error()
                  .message.find("no morph targets") != std::string::npos);
        std::filesystem::create_directory(scratch / "empty");
        CHECK_FALSE(import_morphs(kit(), scratch / "empty", {}));
    }
}

TEST_CASE("Bank in the project file: everything of it comes back") {
    Scratch scratch;
    ProjectState s = new_project(demo_kit());
    for (unsigned k = 1; k <= 2; ++k) add_morph(s, whole("m" + std::to_string(k), k), 0.5 * k);
    s.bank[0].muted = s.bank[1].favourite = true;
    s.mix_a = mix_setting(s);
    REQUIRE(set_region_amount(s, {"nose", "m2", 0.75}));
    s.mix_b = mix_setting(s);
    s.between = 0.25;
    s.neck_band_mm = 31;
    s.head_share = {{1, 2}, {0.5f, 1.0f}};
    s.exchange = scratch / "exchange";
    std::filesystem::create_directory(s.exchange);
    SendOptions options;
    options.scope = SendScope::Region, options.of = "face", options.unit = Unit::Inch, options.up = UpAxis::PlusZ,
    options.level = 1;
    auto sent = send_out(kit(), options, {{s.bank[1].morph.get(), 0.5}}, s.exchange + "/face.obj");
    REQUIRE(sent);
    sent->morph = "m1", sent->stamp = "now";
    s.sent.push_back(*sent);
    REQUIRE(save_project(scratch / "p.veldstone", s));
    const auto back = load_project(scratch / "p.veldstone");
    REQUIRE(back);
    const ProjectState& t = back->state;
    REQUIRE(t.bank.size() == 2);
    CHECK(*t.bank[0].morph == *s.bank[0].morph);
    CHECK((t.bank[0].muted && !t.bank[0].solo && t.bank[1].favourite));
    CHECK(t.region_mix == s.region_mix);
    CHECK(t.mix_a == s.mix_a);
    CHECK(t.mix_b == s.mix_b);
    CHECK(t.between == s.between);
    CHECK(t.neck_band_mm == 31);
    CHECK(t.head_share == s.head_share);
    REQUIRE(t.sent.size() == 1);
    CHECK(t.sent[0].options == s.sent[0].options);
    CHECK(t.sent[0].morphs == s.sent[0].morphs);
    CHECK(*t.sent[0].shape == *s.sent[0].shape);
    CHECK(t.sent[0].morph == "m1");
    CHECK(apart(mixed_shape(t), mixed_shape(s)) == 0);
}
