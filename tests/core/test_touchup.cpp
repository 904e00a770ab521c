// Brushes and the layer that keeps what they did.
#include <catch2/catch.hpp>

#include <random>

#include "core/touchup/brush.h"
#include "core/touchup/layer.h"
#include "tests/support/demo_kit.h"

using namespace veld;

namespace {

const TouchBase& touch_base() {
    static const TouchBase base(*demo_kit());
    return base;
}
const Points& rest() { return demo_kit()->mesh.positions; }
Vec3 landmark(const char* name) { return demo_kit()->landmarks.at(name).at(rest()); }

// seen from straight before the face
TouchPlace place_at(const char* name, const Points& now) {
    const Vec3 p = demo_kit()->landmarks.at(name).at(now);
    return touch_place(touch_base(), now, p + Vec3(0, 0, 300), -Vec3::UnitZ());
}
BrushSettings brush(Brush kind, double radius = 12) {
    BrushSettings s;
    s.brush = kind, s.radius_mm = radius, s.strength = 1;
    return s;
}
double weight_of(const std::vector<Touched>& reached, Index v) {
    for (const Touched& t : reached) {
        if (t.vertex == v) return t.weight;
    }
    return 0;
}
Points noisy(double mm, unsigned seed, const std::vector<Index>& where) {
    std::mt19937_64 random(seed);
    std::uniform_real_distribution<double> d(-mm, mm);
    Points out = rest();
    for (const Index v : where) out[v] += Vec3(d(random), d(random), d(random));
    return out;
}
double asymmetry(const Points& x) {
    double worst = 0;
    for (const Index v : demo_kit()->part("skin")->vertices) {
        const Vec3 other = x[demo_kit()->mirror[v]];
        worst = std::max(worst, (x[v] - Vec3(-other.x(), other.y(), other.z())).norm());
    }
    return worst;
}

}  // namespace

TEST_CASE("Brush: it reaches along the surface, strongest in the middle, nothing at the rim") {
    const Points& x = rest();
    const TouchPlace lip = place_at("labiale_inferius", x);
    REQUIRE(lip.triangle != kNone);
    CHECK((lip.position - landmark("labiale_inferius")).norm() < 1);
    const double to_upper = (landmark("labiale_superius") - lip.position).norm();
    const auto reached =
        brush_reach(touch_base(), x, lip, brush(Brush::Grab, 1.25 * to_upper), Vec3::UnitZ(), nullptr);
    REQUIRE(reached.size() > 20);
    CHECK(weight_of(reached, demo_kit()->landmarks.at("labiale_superius").vertices[0]) ==
          0);  // near through the air only
    double most = 0;
    for (const Touched& t : reached) {
        CHECK(touch_base().skin[t.vertex]);
        CHECK((x[t.vertex] - lip.position).norm() < 1.25 * to_upper);
        most = std::max(most, t.weight);
    }
    CHECK(most > 0.8);
    SECTION("a mask holds skin back, and what turns away from the camera stays") {
        std::vector<float> mask(x.size(), 0);
        for (const Index v : demo_kit()->region("lips")) mask[v] = 0.5f;
        const auto masked = brush_reach(touch_base(), x, lip, brush(Brush::Grab, 20), Vec3::UnitZ(), &mask);
        REQUIRE_FALSE(masked.empty());
        for (const Touched& t : masked) CHECK((mask[t.vertex] > 0 && t.weight <= 0.5));
        BrushSettings through = brush(Brush::Grab, 20);
        const std::size_t front =
            brush_reach(touch_base(), x, place_at("pronasale", x), through, Vec3::UnitZ(), nullptr).size();
        through.front_only = false;
        CHECK(brush_reach(touch_base(), x, place_at("pronasale", x), through, Vec3::UnitZ(), nullptr).size() > front);
    }
    SECTION("nothing under the pointer, nothing reached") {
        const TouchPlace none = touch_place(touch_base(), x, Vec3(5000, 0, 5000), Vec3::UnitZ());
        CHECK(brush_reach(touch_base(), x, none, brush(Brush::Grab), Vec3::UnitZ(), nullptr).empty());
    }
}

TEST_CASE("Brush: grab moves the middle by the hand's way, and the other side as in a mirror") {
    Points now = rest();
    const Points start = now;
    const TouchPlace at = place_at("cheilion_l", now);
    BrushSettings s = brush(Brush::Grab, 15);
    s.mirrored = true;
    const auto reached = brush_reach(touch_base(), now, at, s, Vec3::UnitZ(), nullptr);
    for (const double mm : {1.0, 3.0, 2.0}) grab(touch_base(), reached, start, Vec3(mm, 0.5 * mm, 0), true, now);
    const Index corner = demo_kit()->landmarks.at("cheilion_l").vertices[0];
    CHECK((now[corner] - start[corner] - Vec3(2, 1, 0)).norm() < 0.4);  // the last way counts, not the sum
    CHECK(asymmetry(now) < asymmetry(start) + 1e-9);
    SECTION("in the middle both sides meet and nothing moves twice") {
        now = start;
        const auto chin = brush_reach(touch_base(), now, place_at("gnathion", now), s, Vec3::UnitZ(), nullptr);
        grab(touch_base(), chin, start, Vec3(0, -2, 0), true, now);
        for (std::size_t v = 0; v < now.size(); ++v) CHECK((now[v] - start[v]).norm() <= 2 + 1e-9);
        CHECK(asymmetry(now) < asymmetry(start) + 1e-9);
    }
}

TEST_CASE("Brush: smooth takes bumps away, relax evens the flow and leaves the form") {
    const auto kit = demo_kit();
    const TouchPlace at = place_at("cheek_l", rest());
    REQUIRE(at.triangle != kNone);
    const auto reached = brush_reach(touch_base(), rest(), at, brush(Brush::Smooth, 18), Vec3::UnitZ(), nullptr);
    std::vector<Index> inner;
    for (const Touched& t : reached) {
        if (t.weight > 0.3) inner.push_back(t.vertex);
    }
    REQUIRE(inner.size() > 8);
    const Points normals = vertex_normals(rest(), touch_base().triangles);
    SECTION("smooth") {
        Points now = rest();
        std::mt19937_64 random(4);
        std::uniform_real_distribution<double> d(-0.5, 0.5);
        for (const Index v : inner) now[v] += d(random) * normals[v];
        const auto rough = [&](const Points& x) {
            double sum = 0;
            for (const Index v : inner) sum += std::abs(normals[v].dot(x[v] - rest()[v]));
            return sum / static_cast<double>(inner.size());
        };
        const double before = rough(now);
        for (int i = 0; i < 10; ++i) dab(touch_base(), reached, brush(Brush::Smooth, 18), 1, {}, now);
        CHECK(rough(now) < 0.5 * before);
    }
    SECTION("relax") {
        Points now = rest();
        std::mt19937_64 random(5);
        std::uniform_real_distribution<double> d(-0.8, 0.8);
        for (const Index v : inner) {
            Vec3 along(d(random), d(random), d(random));
            now[v] += along - normals[v].dot(along) * normals[v];
        }
        const auto off = [&](const Points& x, bool across) {
            double sum = 0;
            for (const Index v : inner) {
                const Vec3 m = x[v] - rest()[v];
                sum += across ? std::abs(normals[v].dot(m)) : (m - normals[v].dot(m) * normals[v]).norm();
            }
            return sum / static_cast<double>(inner.size());
        };
        const double before = off(now, false);
        for (int i = 0; i < 20; ++i) dab(touch_base(), reached, brush(Brush::Relax, 18), 1, {}, now);
        CHECK(off(now, false) < 0.4 * before);
        CHECK(off(now, true) < 0.1);
    }
    SECTION("relax leaves the base as it is") {
        Points now = rest();
        for (int i = 0; i < 5; ++i) dab(touch_base(), reached, brush(Brush::Relax, 18), 1, {}, now);
        for (const Index v : inner) CHECK((now[v] - rest()[v]).norm() < 1e-9);
    }
    (void)kit;
}

TEST_CASE("Brush: inflate and deflate undo each other's way, flatten makes a plane") {
    const auto reached = brush_reach(touch_base(), rest(), place_at("glabella", rest()), brush(Brush::Inflate, 10),
                                     Vec3::UnitZ(), nullptr);
    const Points normals = vertex_normals(rest(), touch_base().triangles);
    Points now = rest();
    dab(touch_base(), reached, brush(Brush::Inflate, 10), 1, {}, now);
    for (const Touched& t : reached) CHECK(normals[t.vertex].dot(now[t.vertex] - rest()[t.vertex]) >= 0);
    const double out = (now[reached[reached.size() / 2].vertex] - rest()[reached[reached.size() / 2].vertex]).norm();
    Points half = rest();
    dab(touch_base(), reached, brush(Brush::Inflate, 10), 0.5, {}, half);
    CHECK((half[reached[reached.size() / 2].vertex] - rest()[reached[reached.size() / 2].vertex]).norm() ==
          Approx(0.5 * out));  // a light pen
    dab(touch_base(), reached, brush(Brush::Deflate, 10), 1, {}, now);
    for (const Touched& t : reached) CHECK((now[t.vertex] - rest()[t.vertex]).norm() < 0.1);

    const auto nose = brush_reach(touch_base(), rest(), place_at("pronasale", rest()), brush(Brush::Flatten, 8),
                                  Vec3::UnitZ(), nullptr);
    now = rest();
    const auto depth = [&](const Points& x) {
        Box box;
        for (const Touched& t : nose) {
            if (t.weight > 0.2) box.add(x[t.vertex]);
        }
        return box.size().z();
    };
    const double before = depth(now);
    for (int i = 0; i < 6; ++i) dab(touch_base(), nose, brush(Brush::Flatten, 8), 1, {}, now);
    CHECK(depth(now) < 0.7 * before);
}

TEST_CASE("Brush: pull brings skin onto the source, and only there") {
    Mesh mesh = demo_kit()->mesh;
    const Points normals = vertex_normals(rest(), demo_kit()->triangulation.triangles);
    for (const Index v : demo_kit()->part("skin")->vertices) mesh.positions[v] += 1.5 * normals[v];
    const SourceSurface source = prepare_source(mesh, {});
    const TouchPlace at = place_at("cheek_r", rest());
    const auto reached = brush_reach(touch_base(), rest(), at, brush(Brush::PullToSource, 14), Vec3::UnitZ(), nullptr);
    Points now = rest();
    for (int i = 0; i < 30; ++i) dab(touch_base(), reached, brush(Brush::PullToSource, 14), 1, {&source}, now);
    for (const Touched& t : reached) {
        if (t.weight > 0.3) CHECK(source.closest(now[t.vertex], 5, nullptr).distance < 0.02);
    }
    Points without = rest();
    dab(touch_base(), reached, brush(Brush::PullToSource, 14), 1, {}, without);
    CHECK(without == rest());  // no source, no stroke
}

TEST_CASE("Brush: skin that sank into an eyeball comes out, back to base brings the form back") {
    const auto kit = demo_kit();
    SECTION("eye") {
        const KitEye& eye = kit->eyes.front();
        Points now = rest();
        std::vector<Touched> lid;
        for (const char* name : {"lid_l", "lid_r"}) {
            for (const Index v : kit->region(name)) {
                if ((rest()[v] - eye.centre).norm() < 1.3 * eye.radius) lid.push_back({v, 1});
            }
        }
        REQUIRE(lid.size() > 20);
        for (const Touched& t : lid) now[t.vertex] = eye.centre + 0.9 * (now[t.vertex] - eye.centre);
        double deepest = -1e9;
        for (int i = 0; i < 3; ++i) dab(touch_base(), lid, brush(Brush::PushFromEye), 1, {}, now);
        for (const Touched& t : lid) deepest = std::max(deepest, eye.radius - (now[t.vertex] - eye.centre).norm());
        CHECK(deepest < 1e-9);
    }
    SECTION("base") {
        const auto reached = brush_reach(touch_base(), rest(), place_at("pronasale", rest()),
                                         brush(Brush::BackToBase, 22), Vec3::UnitZ(), nullptr);
        Points now = rest();
        for (const Touched& t : reached) {
            if (t.weight > 0.6) now[t.vertex] += Vec3(1, -2, 3);
        }
        for (int i = 0; i < 40; ++i) dab(touch_base(), reached, brush(Brush::BackToBase, 22), 1, {}, now);
        for (const Touched& t : reached) {
            if (t.weight > 0.6) CHECK((now[t.vertex] - rest()[t.vertex]).norm() < 0.2);
        }
    }
}

TEST_CASE("Brush: any sequence of touches moves skin only, stays finite, and keeps the mirror when asked") {
    std::mt19937_64 random(11);
    Points now = rest();
    const auto& skin = demo_kit()->region("head_skin");
    for (int i = 0; i < 300; ++i) {
        BrushSettings s =
            brush(static_cast<Brush>(1 + random() % (kBrushCount - 1)), 4 + static_cast<double>(random() % 30));
        s.mirrored = true;
        s.falloff = static_cast<Falloff>(random() % 4);
        const Vec3 p = now[skin[random() % skin.size()]];
        const Vec3 from = p + 200 * Vec3(static_cast<double>(random() % 3) - 1, 0.2, 1).normalized();
        const TouchPlace at = touch_place(touch_base(), now, from, (p - from).normalized());
        dab(touch_base(), brush_reach(touch_base(), now, at, s, (from - p).normalized(), nullptr), s, 1, {}, now);
    }
    double moved = 0;
    for (std::size_t v = 0; v < now.size(); ++v) {
        REQUIRE(now[v].allFinite());
        if (!touch_base().skin[v]) REQUIRE(now[v] == rest()[v]);
        moved = std::max(moved, (now[v] - rest()[v]).norm());
    }
    CHECK(moved > 0.1);
    CHECK(asymmetry(now) < asymmetry(rest()) + 1e-6);
}

TEST_CASE("Touch-up layer: scaled, switched off, wiped by region, the same after a new fit") {
    const auto kit = demo_kit();
    Points touched = noisy(1, 3, kit->region("lips"));
    for (const Index v : kit->region("ear_l")) touched[v].x() += 2;
    const TouchLayer layer = touch_between(*kit, rest(), touched, {});
    CHECK(layer.vertex.size() >= kit->region("ear_l").size());
    const Points again = with_touch(*kit, rest(), layer);
    for (const Index v : kit->part("skin")->vertices) REQUIRE((again[v] - touched[v]).norm() < 2e-4);
    CHECK(largest_touch(layer) == Approx(2).margin(0.01));

    TouchLayer twice = layer;
    twice.amount = 2;
    const Index ear = kit->region("ear_l")[5], lip = kit->region("lips")[5];
    CHECK((with_touch(*kit, rest(), twice)[ear] - rest()[ear]).x() == Approx(4));
    CHECK(touch_between(*kit, rest(), with_touch(*kit, rest(), twice), twice).vertex == layer.vertex);
    twice.on = false;
    CHECK(with_touch(*kit, rest(), twice) == rest());

    const TouchLayer rest_of_it = wiped(layer, kit->region("ear_l"));
    CHECK(with_touch(*kit, rest(), rest_of_it)[ear] == rest()[ear]);
    CHECK(with_touch(*kit, rest(), rest_of_it)[lip] != rest()[lip]);

    Points other = rest();  // another fit, half a metre away
    for (Vec3& p : other) p += Vec3(0, 500, 0);
    CHECK((with_touch(*kit, other, layer)[ear] - other[ear]).x() == Approx(2));
}

TEST_CASE("Touch-up layer: lashes go along with a lid, and stay where nothing is done") {
    const auto kit = demo_kit();
    Points touched = rest();
    for (const Index v : kit->region("lid_l")) touched[v] += Vec3(0, -1, 0);
    const Points out = with_touch(*kit, rest(), touch_between(*kit, rest(), touched, {}));
    Vec3 left = Vec3::Zero(), right = Vec3::Zero();
    for (const Index v : kit->region("lash_l"))
        left += (out[v] - rest()[v]) / static_cast<double>(kit->region("lash_l").size());
    for (const Index v : kit->region("lash_r"))
        right += (out[v] - rest()[v]) / static_cast<double>(kit->region("lash_r").size());
    CHECK(left.y() < -0.8);
    CHECK(right.norm() < 1e-3);
}
