// How open a surface lies: shapes whose answer is known by reckoning.
#include <catch2/catch.hpp>

#include "core/kit/kit_surface.h"
#include "core/spatial/ground_shadow.h"
#include "core/spatial/openness.h"
#include "core/spatial/surface_query.h"
#include "tests/support/demo_kit.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

// A square sheet of the given half size at this height, facing up or down, as a grid of n x n cells.
struct Sheets {
    Points positions;
    std::vector<Triangle> triangles;
    Points normals;
    void add(double half, double y, bool up, int n = 8) {
        const Index first = static_cast<Index>(positions.size());
        for (int i = 0; i <= n; ++i) {
            for (int k = 0; k <= n; ++k) {
                positions.emplace_back(half * (2.0 * i / n - 1), y, half * (2.0 * k / n - 1));
                normals.push_back(up ? Vec3::UnitY() : Vec3(-Vec3::UnitY()));
            }
        }
        for (Index i = 0; i < static_cast<Index>(n); ++i) {
            for (Index k = 0; k < static_cast<Index>(n); ++k) {
                const Index a = first + i * (n + 1) + k, b = a + 1, c = a + n + 1, d = c + 1;
                triangles.push_back({a, b, d});
                triangles.push_back({a, d, c});
            }
        }
    }
    std::vector<float> openness(OpennessSettings settings = {}) const {
        const SurfaceQuery query(positions, triangles);
        settings.smooth_rounds = 0;
        return openness_of(positions, normals, triangles, query, settings, {});
    }
    std::size_t middle(int n = 8) const { return static_cast<std::size_t>((n / 2) * (n + 1) + n / 2); }
};

}  // namespace

TEST_CASE("Openness: a plain is open, whatever lies beyond reach or behind") {
    Sheets s;
    s.add(100, 0, true);
    s.add(1000, -5, true);
    s.add(1000, 500, false);
    OpennessSettings settings;
    settings.reach_mm = 50;
    for (std::size_t v = 0; v < 81; ++v) CHECK(s.openness(settings)[v] == Approx(1));
}

TEST_CASE("Openness: below a wide lid it is as open as the gap is high, the light of a hemisphere reckoned") {
    // All rays meet the lid: at angle a from the normal after h / cos a. With cosine-weighted rays the mean of
    // min(1, h / (R cos a)) is, with c = h / R: c^2 + integral of 2 c over cos a from c to 1 = c^2 + 2 c (1 - c).
    for (const double c : {0.1, 0.3, 0.7}) {
        Sheets s;
        s.add(1, 0, true);
        s.add(20000, 10, false, 2);
        OpennessSettings settings;
        settings.rays = 512;
        settings.reach_mm = 10 / c;
        CHECK(s.openness(settings)[s.middle()] == Approx(c * c + 2 * c * (1 - c)).margin(0.01));
    }
}

TEST_CASE("Openness: the same numbers every time, smoothing keeps an even surface, cancelled there are none") {
    Sheets s;
    s.add(50, 0, true);
    s.add(50, 12, false);
    CHECK(s.openness() == s.openness());
    const SurfaceQuery query(s.positions, s.triangles);
    Sheets flat;
    flat.add(50, 0, true);
    const SurfaceQuery alone(flat.positions, flat.triangles);
    for (const float v : openness_of(flat.positions, flat.normals, flat.triangles, alone, {}, {}))
        CHECK(v == Approx(1));
    Progress progress;
    progress.cancelled = [] { return true; };
    CHECK(openness_of(s.positions, s.normals, s.triangles, query, {}, progress).empty());
}

TEST_CASE("Openness: on the base, nostrils and mouth are dark, brow and cheek are light") {
    const BaseKit& kit = *demo_kit();
    const SurfaceQuery query(kit.mesh.positions, solid_triangles(kit));
    const std::vector<float> open =
        openness_of(kit.mesh.positions, kit_normals(kit), kit.triangulation.triangles, query, {}, {});
    REQUIRE(open.size() == kit.mesh.positions.size());
    const auto mean = [&](const std::vector<Index>& vertices) {
        double sum = 0;
        for (const Index v : vertices) sum += static_cast<double>(open[v]);
        return sum / static_cast<double>(vertices.size());
    };
    const auto at = [&](const char* name) { return static_cast<double>(open[kit.landmarks.at(name).vertices[0]]); };
    CHECK(at("glabella") > 0.8);
    CHECK(at("vertex") > 0.9);
    CHECK(at("pronasale") > 0.85);
    for (const char* inside : {"nostril_inside", "mouth_inner"}) {
        INFO(inside);
        REQUIRE_FALSE(kit.region(inside).empty());
        CHECK(mean(kit.region(inside)) < 0.4);
    }
}

TEST_CASE("Ground: dark below what stands on it, open where nothing is near, the same on both sides") {
    // a block of 200 x 400 x 100 that stands at height 30
    const Mesh block = [] {
        Mesh m = cube();
        for (Vec3& p : m.positions) p = Vec3(200 * (p.x() - 0.5), 30 + 400 * p.y(), 100 * (p.z() - 0.5));
        return m;
    }();
    const auto triangles = triangulate(block).triangles;
    const SurfaceQuery query(block.positions, triangles);
    const Box box = bounding_box(block.positions);
    const GroundShadow ground = ground_shadow(query, box, 300, {});
    REQUIRE(ground.open.size() == std::size_t{ground.across} * ground.deep);
    CHECK(ground.height == Approx(box.low.y()));
    const auto at = [&](double x, double z) {
        const auto i = static_cast<std::size_t>(std::lround((x - ground.left) / ground.cell)),
                   j = static_cast<std::size_t>(std::lround((z - ground.back) / ground.cell));
        return ground.open[j * ground.across + i];
    };
    const Vec3 middle = box.centre();
    CHECK(at(middle.x(), middle.z()) < 0.2f);
    const double beside = 0.5 * box.size().x() + 20, off = 0.5 * box.size().x() + 290;
    CHECK(at(middle.x() + beside, middle.z()) < 0.75f);
    CHECK(at(middle.x() + off, middle.z()) > 0.97f);
    CHECK(at(middle.x() + beside, middle.z()) < at(middle.x() + 2 * beside, middle.z()));
    CHECK(at(middle.x() + beside, middle.z()) == Approx(at(middle.x() - beside, middle.z())).margin(0.06));
    Progress cancelled;
    cancelled.cancelled = [] { return true; };
    CHECK(ground_shadow(query, box, 300, cancelled).empty());
}
