// Corrections: what brings them in, made in proofs, kept in banks; sheets of proofs.
#include <catch2/catch.hpp>

#include "core/io/image.h"
#include "core/kit/kit_surface.h"
#include "core/morph/arithmetic.h"
#include "core/morph/morph_file.h"
#include "core/project/bank.h"
#include "core/project/store.h"
#include "core/proof/mend.h"
#include "core/proof/sheet.h"
#include "core/spatial/self_intersections.h"
#include "tests/support/apart.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

namespace {

Proof stock(const std::string& name) {
    for (const Proof& p : stock_proofs(*demo_kit()))
        if (p.name == name) return p;
    throw std::runtime_error("no proof " + name);
}

ProofBench bench_of(const Points& shape, const std::vector<Proof>& proofs) {
    auto bench = ProofBench::make(*demo_kit(), shape, proofs, {});
    if (!bench) throw std::runtime_error(bench.error().message);
    return bench->corrected({}, {{"thick", 1}});
}

// The base with legs so thick that they cut in a squat where the base's do not.
Points thick_legs() {
    Points out = demo_kit()->mesh.positions;
    const Points& normals = kit_normals(*demo_kit());
    for (const Index v : demo_kit()->part("skin")->vertices) {
        const double y = out[v].y();
        const double share = std::clamp(std::min((y - 250) / 150, (850 - y) / 150), 0.0, 1.0);
        if (std::abs(out[v].x()) < 250) out[v] += 12 * share * normals[v];
    }
    return out;
}

Morph small_morph(const std::string& name, Index vertex) {
    Points shape = demo_kit()->mesh.positions;
    shape[vertex].z() += 1;
    return *make_morph(*demo_kit(), shape, name);
}

}  // namespace

TEST_CASE("Drivers: shares of morphs and joints, all of them multiplied") {
    const MorphDriver head{"head", 1, {}, Vec3::Zero()}, smile{"smile", 0.5, {}, Vec3::Zero()},
        elbow{{}, 1, "forearm_l", Vec3(0, 0, 1.2)};
    CHECK(driven_share({}, {}) == 1);
    CHECK(driven_share({head}, {{{"head", 0.3}}, {}}) == Approx(0.3));
    CHECK(driven_share({head}, {{{"head", 1.5}}, {}}) == Approx(1.5));
    CHECK(driven_share({head}, {{{"head", -1}}, {}}) == 0);
    CHECK(driven_share({head, smile}, {{{"head", 1}, {"smile", 0.25}}, {}}) == Approx(0.5));
    CHECK(driven_share({elbow}, {{}, {{"forearm_l", Vec3(0, 0, 0.6)}}}) == Approx(0.5));
    CHECK(driven_share({elbow}, {{}, {{"forearm_l", Vec3(0.4, 0, 2)}}}) == 1);
    CHECK(driven_share({elbow}, {{}, {{"forearm_l", Vec3(0.4, 0, -1)}}}) == 0);
    CHECK(driven_share({elbow}, {{}, {{"forearm_r", Vec3(0, 0, 1.2)}}}) == 0);
    CHECK(driver_names({head, elbow}) == "head, forearm_l");
}

TEST_CASE("Drivers: kept in morph files and banks, mirrored; damaged ones are told") {
    Morph m = small_morph("fix", 100);
    m.drivers = {{"head", 1, {}, Vec3::Zero()}, {{}, 1, "forearm_l", Vec3(0.1, 0.2, 1.2)}};
    for (const std::string& text : {morph_text(m), morph_bytes(m)}) {
        const auto again = parse_morph(text, "it", *demo_kit());
        REQUIRE(again);
        CHECK(again->drivers == m.drivers);
    }
    for (const auto& [from, to] :
         std::vector<std::pair<std::string, std::string>>{{"\"turn\":[0.1,0.2,1.2]", "\"turn\":[0,0,0]"},
                                                          {"\"turn\":[0.1,0.2,1.2]", "\"turn\":[0,0]"},
                                                          {"\"turn\":[0.1,0.2,1.2]", "\"turn\":[0,0,1e999]"},
                                                          {"\"whole\":1.0", "\"whole\":0.0"},
                                                          {"\"morph\":\"head\"", "\"morph\":\"\""},
                                                          {"\"joint\":\"forearm_l\"", "\"joint\":7"}}) {
        std::string broken = morph_text(m);
        INFO(to);
        REQUIRE(broken.find(from) != std::string::npos);
        broken.replace(broken.find(from), from.size(), to);
        const auto none = parse_morph(broken, "the file", *demo_kit());
        REQUIRE_FALSE(none);
        CHECK(none.error().message.find("the file") != std::string::npos);
    }
    const auto mirrored = mirrored_morph(*demo_kit(), m, "other");
    REQUIRE(mirrored);
    CHECK(mirrored->drivers[0].morph == "head");
    CHECK(mirrored->drivers[1].joint == "forearm_r");
    CHECK(mirrored->drivers[1].turn.isApprox(Vec3(0.1, -0.2, -1.2)));
}

TEST_CASE("Drivers: a bank mixes corrections in by itself, renames along, and keeps them on in settings of before") {
    ProjectState state;
    state.kit = demo_kit();
    add_morph(state, small_morph("head", 10), 0.5);
    add_morph(state, small_morph("blink", 20), 0.4);
    state.mix_a = mix_setting(state);
    Morph fix = small_morph("fix", 30);
    fix.kind = MorphKind::Expression, fix.usual = 1;
    fix.drivers = {{"head", 1, {}, Vec3::Zero()}, {"blink", 1, {}, Vec3::Zero()}};
    add_morph(state, fix, 1);
    const auto amount = [&](std::size_t i) { return state.amounts()[i].amount; };
    CHECK(amount(2) == Approx(0.2));
    CHECK((mixed_shape(state)[30] - demo_kit()->mesh.positions[30]).z() == Approx(0.2));
    state.bank[2].amount = 0.5;
    CHECK(amount(2) == Approx(0.1));
    state.bank[2].amount = 1;
    state.bank[0].muted = true;
    CHECK(amount(2) == 0);
    state.bank[0].muted = false;
    state.bank[0].solo = state.bank[1].solo = true;
    CHECK(amount(2) == Approx(0.2));  // what corrects them goes along
    rename_morph(state, 1, "wink");
    CHECK(state.bank[2].morph->drivers[1].morph == "wink");
    CHECK(amount(2) == Approx(0.2));
    rename_morph(state, 1, "blink");
    set_mix(state, *state.mix_a);
    CHECK(state.bank[2].amount == 1);  // the setting did not know of it
    state.mix_b = MixSetting{};
    set_between(state, 0.5);
    CHECK(state.bank[0].amount == Approx(0.25));
    CHECK(state.bank[2].amount == Approx(1));
    state.bank[2].amount = 0;
    state.mix_b = mix_setting(state);
    state.bank[2].amount = 1;
    set_mix(state, *state.mix_b);
    CHECK(state.bank[2].amount == 0);             // switched off on purpose
    CHECK(corrections_in(state, false).empty());  // found with the head, not in proofs
}

TEST_CASE("Mend: skin pushed apart in a pose is a correction of that joint, for that shape alone") {
    const Proof squat = stock("squat");
    const ProofBench bench = bench_of(thick_legs(), {squat});
    const ProofStop& stop = squat.stops.back();
    const auto mended = mend(bench, stop, Skinning::Linear, Mend::PushApart, {});
    REQUIRE(mended);
    CHECK(mended->before > 10);
    CHECK(mended->after < mended->before);
    const auto fixes = corrections_of(bench.shape, stop, mended->ways, "thick, squat");
    REQUIRE(fixes);
    REQUIRE(fixes->size() >= 2);  // at least one for each leg
    std::vector<ShapeCorrection> corrections;
    std::set<std::string> joints;
    for (const Morph& fix : *fixes) {
        CHECK(fix.kind == MorphKind::Fix);
        REQUIRE(fix.drivers.size() == 2);
        CHECK(fix.drivers[0].morph == "thick");
        CHECK(fix.name == "thick, squat, " + fix.drivers[1].joint);
        joints.insert(fix.drivers[1].joint);
        corrections.push_back({std::make_shared<const Morph>(fix), 1});
    }
    CHECK(joints.size() == fixes->size());
    const ProofBench with = bench.corrected(corrections, {{"thick", 1}});
    const auto cuts = [&](const ProofBench& b) {
        for (const ProofFigure& f : b.places->measure(b.shape, b.base, stop, b.shape.at(stop, Skinning::Linear),
                                                      b.base.at(stop, Skinning::Linear)))
            if (f.measure == ProofMeasure::Cuts) return f.value;
        return -1.0;
    };
    CHECK(cuts(bench) == static_cast<double>(mended->before));
    CHECK(cuts(with) == static_cast<double>(mended->after));
    // neither at rest nor on another shape
    CHECK(apart(with.shape.at({}, Skinning::Linear), bench.shape.at({}, Skinning::Linear)) == 0);
    const ProofBench other = bench.corrected(corrections, {{"thin", 1}});
    CHECK(apart(other.shape.at(stop, Skinning::Linear), bench.shape.at(stop, Skinning::Linear)) == 0);
    CHECK(apart(with.base.at(stop, Skinning::Linear), bench.base.at(stop, Skinning::Linear)) == 0);
    // nothing to do
    const auto calm = mend(bench_of(demo_kit()->mesh.positions, {squat}), stop, Skinning::Linear, Mend::PushApart, {});
    REQUIRE_FALSE(calm);
    CHECK(calm.error().code == ErrorCode::BadInput);
    CHECK(mend(bench, stop, Skinning::Linear, Mend::ShutLids, {}).error().code == ErrorCode::BadInput);
    Progress stopped;
    stopped.cancelled = [] { return true; };
    CHECK(mend(bench, stop, Skinning::Linear, Mend::PushApart, stopped).error().code == ErrorCode::Cancelled);
}

TEST_CASE(
    "Mend: a way in a pose is taken back exactly, by either skinning, and added to where it is half brought in") {
    const Proof sit = stock("sit");
    const ProofBench bench = bench_of(demo_kit()->mesh.positions, {sit});
    const ProofStop half = between({}, sit.stops.back(), 0.5);
    for (const Skinning skinning : {Skinning::Linear, Skinning::DualQuaternion}) {
        const ProofStop& stop = sit.stops.back();
        const Points before = bench.shape.at(stop, skinning);
        Points after = before;
        for (const Index v : demo_kit()->region("foot_l")) after[v] += Vec3(0.3, 1, -0.5);
        const Points ways = taken_back(bench.shape, stop, skinning, before, after);
        const auto fixes = corrections_of(bench.shape, stop, ways, "fix");
        REQUIRE(fixes);
        REQUIRE(fixes->size() == 1);
        const Morph& fix = fixes->front();
        REQUIRE(fix.drivers.size() == 2);
        const auto corrected = [&](const Morph& m) {
            return bench.corrected({{std::make_shared<const Morph>(m), 1}}, {{"thick", 1}});
        };
        CHECK(apart(corrected(fix).shape.at(stop, skinning), after) < 1e-6);
        // as much again from a stop that has half of it
        const auto more = corrected_further(bench.shape, half, fix, fix);
        REQUIRE(more);
        CHECK(apart(corrected(*more).shape.at(stop, skinning), before) == Approx(3 * apart(after, before)));
        CHECK_FALSE(corrected_further(bench.shape, {}, fix, fix));
    }
    CHECK_FALSE(corrections_of(bench.shape, {}, Points(demo_kit()->mesh.positions.size(), Vec3::Zero()), "nothing"));
}

TEST_CASE("Mend: less of a shape in a region; it counts at rest") {
    const BaseKit& kit = *demo_kit();
    Points shape = kit.mesh.positions;
    for (const Index v : kit.part("skin")->vertices) shape[v].z() += 10;
    const Points ways = reduced_ways(kit, shape, region_weights(kit, "face"), 0.3);
    const Index tip = kit.landmarks.at("pronasale").vertices[0];
    CHECK((ways[tip] - Vec3(0, 0, -3)).norm() < 0.01);
    const ProofBench bench = bench_of(shape, {stock("rest")});
    const auto fixes = corrections_of(bench.shape, {}, ways, "less");
    REQUIRE(fixes);
    REQUIRE(fixes->size() == 1);
    CHECK(fixes->front().name == "less");
    CHECK(is_of_rest(kit, fixes->front().drivers));
    Morph bent = fixes->front();
    bent.drivers.push_back({{}, 1, "forearm_l", Vec3(0, 0, 1)});
    CHECK_FALSE(is_of_rest(kit, bent.drivers));
    bent.drivers.back() = {"blink", 1, {}, Vec3::Zero()};
    CHECK_FALSE(is_of_rest(kit, bent.drivers));
}

TEST_CASE("Proof sheet: a page as PNG and as PDF, worst proofs first; kept with a morph") {
    const std::vector<Proof> proofs{stock("squat"), stock("blink"), stock("rest")};
    const ProofBench bench = bench_of(thick_legs(), proofs);
    const auto report = prove(bench, proofs, Skinning::Linear, {});
    REQUIRE(report);
    const std::vector<Proof> shown = proofs_for_sheet(proofs, *report);
    REQUIRE(shown.size() == 3);
    CHECK(shown.front().name == "squat");
    std::set<std::string> said;
    const auto sheet = proof_sheet(bench, shown, *report, Skinning::Linear,
                                   {"thick", [&](const std::string& w) { return said.insert(w), w; }}, {});
    REQUIRE(sheet);
    CHECK(sheet->pdf.starts_with("%PDF"));
    CHECK(said.contains("skin cuts itself"));
    Image image;
    image.name = "sheet.png";
    image.bytes.assign(sheet->png.begin(), sheet->png.end());
    const auto pixels = decode_image(image);
    REQUIRE(pixels);
    CHECK(pixels->height > pixels->width);
    std::size_t dark = 0;
    for (std::size_t i = 0; i < pixels->rgba.size(); i += 4) dark += pixels->rgba[i] < 200;
    CHECK(dark > pixels->rgba.size() / 4 / 100);
    Progress stopped;
    stopped.cancelled = [] { return true; };
    CHECK(proof_sheet(bench, shown, *report, Skinning::Linear, {"thick"}, stopped).error().code ==
          ErrorCode::Cancelled);
    Scratch scratch;
    REQUIRE(write_sheet(*sheet, scratch / "page.pdf"));
    CHECK(scratch.read("page.png") == sheet->png);
    CHECK(scratch.read("page.pdf") == sheet->pdf);
    ProjectState state = new_project(demo_kit());
    add_morph(state, small_morph("thick", 3), 1);
    state.bank[0].sheet = std::make_shared<const std::string>(sheet->png);
    REQUIRE(save_project(scratch / "p.veldstone", state));
    const auto again = load_project(scratch / "p.veldstone");
    REQUIRE(again);
    REQUIRE(again->state.bank[0].sheet);
    CHECK(*again->state.bank[0].sheet == sheet->png);
    ProjectState next = again->state;
    replace_morph(next, 0, small_morph("thick", 5));
    CHECK_FALSE(next.bank[0].sheet);
}
