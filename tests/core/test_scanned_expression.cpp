// A person's own expression from a scan of them with it.
#include <catch2/catch.hpp>

#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"
#include "core/morph/arithmetic.h"
#include "core/proof/scanned_expression.h"
#include "demo/standins/made_up_person.h"
#include "tests/support/apart.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

// The base with an expression, as a base of its own: a person who is scanned with it.
BaseKit smiling(const BaseKit& kit, const std::string& expression) {
    BaseKit out = kit;
    out.mesh.positions = kit.expressions.at(expression);
    return out;
}

}  // namespace

TEST_CASE("Scanned expression: found on a person's scan, the head's motion out, near to the truth") {
    const BaseKit& kit = *demo_kit();
    SubjectOptions options;
    options.seed = 9301, options.holes = false, options.stray_parts = false, options.detail_mm = 0;
    const BaseKit smiles = smiling(kit, "smile");
    const Points neutral = worn_by(smiles, options, kit.mesh.positions);
    const Points truth = worn_by(smiles, options, kit.expressions.at("smile"));
    const SyntheticSubject person = make_subject(smiles, options);
    FitInput scan;
    scan.source = &person.scan, scan.landmarks = person.landmarks;
    const auto made = expression_from_scan(kit, neutral, scan, {});
    REQUIRE(made);
    std::vector<double> off, moved;
    for (const Index v : kit.part("skin")->vertices) {
        if ((truth[v] - neutral[v]).norm() < 1) continue;
        off.push_back((made->shape[v] - truth[v]).norm());
        moved.push_back((truth[v] - neutral[v]).norm());
    }
    REQUIRE(off.size() > 300);
    CHECK(median(off) < 0.8);  // landmarks are up to 1 mm off, and skin slides
    CHECK(median(off) < 0.25 * median(moved));
    // the body, the skull and the eyes stay where the neutral shape has them
    const auto stays = [&](Index v) { return made->shape[v] == neutral[v]; };
    for (const KitEye& eye : kit.eyes)
        for (const Index v : kit.part(eye.part)->vertices) REQUIRE(stays(v));
    CHECK(stays(kit.landmarks.at("vertex").vertices[0]));
    for (const Index v : kit.region("hand_l")) REQUIRE(stays(v));

    const auto parts = expression_parts(kit, neutral, made->shape, "smile");
    REQUIRE(parts);
    REQUIRE(parts->size() > 4);
    CHECK(parts->at(0).name == "smile");
    CHECK(parts->at(1).name == "smile left");
    CHECK(parts->at(2).name == "smile right");
    const Points& base = kit.mesh.positions;
    const Points whole = mix_morphs(base, {{&parts->at(0), 1}}),
                 halves = mix_morphs(base, {{&parts->at(1), 1}, {&parts->at(2), 1}});
    CHECK(apart(whole, halves) < 1e-3);
    std::vector<MorphAmount> regions;
    for (std::size_t i = 3; i < parts->size(); ++i) regions.push_back({&parts->at(i), 1});
    CHECK(apart(whole, mix_morphs(base, regions)) < 0.35);  // parts that hardly move were left out
    for (const Morph& m : *parts) CHECK(m.kind == MorphKind::Expression);
}

TEST_CASE("Scanned expression: a person's kit is that person; cancelled, none is made") {
    const BaseKit& kit = *demo_kit();
    SubjectOptions options;
    options.seed = 9302;
    const Points neutral = worn_by(kit, options, kit.mesh.positions);
    const auto person = kit_of_person(kit, neutral, {});
    REQUIRE(person);
    CHECK(person->mesh.positions == neutral);
    CHECK(person->topology_key == kit.topology_key);
    CHECK(person->expressions.size() == kit.expressions.size());
    for (std::size_t e = 0; e < kit.eyes.size(); ++e) CHECK((person->eyes[e].centre - kit.eyes[e].centre).norm() < 30);
    Progress stopped;
    stopped.cancelled = [] { return true; };
    CHECK(kit_of_person(kit, neutral, stopped).error().code == ErrorCode::Cancelled);
    CHECK(expression_from_scan(kit, neutral, {}, stopped).error().code == ErrorCode::Cancelled);
}
