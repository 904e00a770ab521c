// Expressions of the base on other heads.
#include <catch2/catch.hpp>

#include "core/io/mesh_file.h"
#include "core/morph/morph.h"
#include "core/proof/carry_expression.h"
#include "core/proof/face.h"
#include "demo/standins/sitting.h"
#include "tests/support/apart.h"
#include "tests/support/demo_kit.h"
#include "tests/support/scratch.h"

using namespace veld;

TEST_CASE("Expressions carried: on the base they are what they are, on its double twice as large") {
    const auto kit = demo_kit();
    const Points& base = kit->mesh.positions;
    const auto larger = [&](Points x) {
        for (Vec3& p : x) p = 2 * p + Vec3(10, -5, 3);
        return x;
    };
    const Points twice = larger(base);
    REQUIRE(kit->expressions.size() >= 3);
    const auto same = Face::make(*kit, base, {}), large = Face::make(*kit, twice, {});
    REQUIRE(same);
    REQUIRE(large);
    CHECK(apart(*carry_expression(*kit, base, "smile"), same->carried().at("smile")) < 1e-9);
    for (const auto& [name, shape] : kit->expressions) {
        INFO(name);
        CHECK(apart(same->carried().at(name), shape) < 0.1);
        CHECK(apart((*same)({{name, 0}}), base) < 1e-9);
        double off = 0;
        const Points wanted = larger(shape);
        for (const Index v : kit->part("skin")->vertices)
            off = std::max(off, (large->carried().at(name)[v] - wanted[v]).norm());
        CHECK(off < 0.5);
    }
}

TEST_CASE("Expressions carried: lids of other heads shut, lips do not cross, what does not move stays") {
    const auto kit = demo_kit();
    std::vector<Points> heads{read_mesh(demo("returns/warden_clean.obj"))->mesh.positions};
    for (const Morph& m : made_up_heads(*kit, 3, 7001)) heads.push_back(mix_morphs(kit->mesh.positions, {{&m, 1.0}}));
    double plain_gap = 0;
    for (const Points& head : heads) {
        const auto face = Face::make(*kit, head, {});
        REQUIRE(face);
        for (const auto& [name, shape] : kit->expressions) {
            INFO(name);
            const Points* carried = &face->carried().at(name);
            const Points plain = plain_expression(*kit, head, name);
            const ContactFigures now = contact_figures(*kit, *carried, name),
                                 before = contact_figures(*kit, plain, name);
            CHECK(now.gap_mm < 0.1);
            CHECK(now.cuts <= before.cuts);
            if (name == "blink") plain_gap = std::max(plain_gap, before.gap_mm);
            for (const Index v : kit->part("skin")->vertices)
                if ((shape[v] - kit->mesh.positions[v]).isZero()) REQUIRE((*carried)[v] == head[v]);
        }
    }
    CHECK(plain_gap > 0.4);  // as it is, the blink does not shut the warden's eyes
}

TEST_CASE("Expressions carried: halves and more, as morphs and as corrections; cancelled, none") {
    const auto kit = demo_kit();
    const Points head = read_mesh(demo("returns/warden_clean.obj"))->mesh.positions;
    for (const double amount : {0.25, 0.5, 1.3}) {
        const auto carried = carry_expression(*kit, head, "blink", amount);
        REQUIRE(carried);
        for (const Vec3& p : *carried) REQUIRE(p.allFinite());
    }
    const auto morphs = carried_morphs(*kit, head, {});
    REQUIRE(morphs);
    REQUIRE(morphs->size() == kit->expressions.size());
    const Index own = contact_figures(*kit, head, "blink", 0).cuts;
    for (const Morph& m : *morphs)
        CHECK(m.note.empty() == (contact_figures(*kit, mix_morphs(head, {{&m, 1.0}}), m.name).cuts <= own));
    Progress stopped;
    stopped.cancelled = [] { return true; };
    CHECK(carried_morphs(*kit, head, stopped).error().code == ErrorCode::Cancelled);
    const auto made = head_expressions(*kit, head, "warden", {});
    REQUIRE(made);
    CHECK(made->plain.size() == kit->expressions.size());
    REQUIRE_FALSE(made->corrections.empty());
    // head, expression and correction add up to the expression as the head makes it
    for (const Morph& c : made->corrections) {
        REQUIRE(c.drivers.size() == 2);
        CHECK(c.drivers[0].morph == "warden");
        const std::string name = c.drivers[1].morph;
        if (name != "blink" && name != "smile") continue;
        CHECK(driven_share(c.drivers, {{{"warden", 1}, {name, 0.5}}, {}}) == Approx(0.5));
        CHECK(driven_share(c.drivers, {{{name, 1}}, {}}) == 0);
        const Points whole = mix_morphs(plain_expression(*kit, head, name), {{&c, 1.0}});
        const auto carried =
            std::find_if(morphs->begin(), morphs->end(), [&](const Morph& m) { return m.name == name; });
        CHECK(apart(whole, mix_morphs(head, {{&*carried, 1.0}})) < 0.001);
    }
}

TEST_CASE("Expressions carried: one that is known of the head is taken; one that the kit lacks is refused") {
    const auto kit = demo_kit();
    const Points& base = kit->mesh.positions;
    Points own = base;
    for (const Index v : kit->region("nose")) own[v].z() += 2;
    const auto face = Face::make(*kit, base, {}, {"smile", "jaw_open"}, {{"smile", own}, {"blink", own}});
    REQUIRE(face);
    CHECK(face->carried().at("smile") == own);
    CHECK(face->carried().size() == 2);
    const auto none = carry_expression(*kit, base, "wink");
    REQUIRE_FALSE(none);
    CHECK(none.error().code == ErrorCode::NotFound);
    CHECK(none.error().message.find("jaw_open") != std::string::npos);
}
