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
    SECTION("halves and more") {
        for (const double amount : {0.25, 0.5, 1.3}) {
            const auto carried = carry_expression(*kit, heads.front(), "blink", amount);
            REQUIRE(carried);
            for (const Vec3& p : *carried) REQUIRE(p.allFinite());
        }
    }
    SECTION("all of them as morphs; cancelled, none") {
        const auto morphs = carried_morphs(*kit, heads.front(), {});
        REQUIRE(morphs);
        REQUIRE(morphs->size() == kit->expressions.size());
        for (const Morph& m : *morphs) {
            const Points shape = mix_morphs(heads.front(), {{&m, 1.0}});
            const Index cuts = contact_figures(*kit, shape, m.name).cuts,
                        own = contact_figures(*kit, heads.front(), m.name, 0).cuts;
            CHECK(m.note.empty() == (cuts <= own));
        }
        Progress stopped;
        stopped.cancelled = [] { return true; };
        CHECK(carried_morphs(*kit, heads.front(), stopped).error().code == ErrorCode::Cancelled);
    }
    SECTION("one that the kit lacks is refused with those that it has") {
        const auto none = carry_expression(*kit, heads.front(), "wink");
        REQUIRE_FALSE(none);
        CHECK(none.error().code == ErrorCode::NotFound);
        CHECK(none.error().message.find("jaw_open") != std::string::npos);
    }
}
