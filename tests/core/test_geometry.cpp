// Topology, closest points, rays, self-intersections, the linear solver.
#include <catch2/catch.hpp>

#include <random>

#include "core/fit/push_apart.h"
#include "core/fit/untangle.h"
#include "core/fit/wrap.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/spd_solver.h"
#include "core/linalg/statistics.h"
#include "core/mesh/corner_split.h"
#include "core/mesh/polyline.h"
#include "core/mesh/stand_in.h"
#include "core/mesh/topology.h"
#include "core/spatial/self_intersections.h"
#include "core/spatial/surface_query.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {
Points random_points(int n, unsigned seed, double size = 1) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> d(-size, size);
    Points out;
    for (int i = 0; i < n; ++i) out.emplace_back(d(random), d(random), d(random));
    return out;
}
}  // namespace

TEST_CASE("Topology: a cube is closed, a sheet has one border, doubled seams are seen through") {
    REQUIRE(inspect_topology(cube()).border_edges == 0);
    REQUIRE(inspect_topology(cube()).components == 1);
    Mesh m = sheet(3, 1, [](double, double) { return 0.0; });
    TopologyReport r = inspect_topology(m);
    REQUIRE(r.border_edges == 12);
    REQUIRE(r.holes == 1);
    // cut along a seam: every face gets its own corners
    Mesh split;
    for (Index f = 0; f < m.face_count(); ++f) {
        for (Index c = m.face_start[f]; c < m.face_start[f + 1]; ++c) {
            split.corner_vertex.push_back(split.vertex_count());
            split.positions.push_back(m.positions[m.corner_vertex[c]]);
        }
        split.face_start.push_back(static_cast<Index>(split.corner_vertex.size()));
    }
    r = inspect_topology(split);
    REQUIRE(r.border_edges == 12);
    REQUIRE(r.components == 1);
    REQUIRE(r.doubled_vertices == split.vertex_count() - m.vertex_count());
}

TEST_CASE("Topology: bad faces are counted") {
    Mesh m = cube();
    add_face(m, {0, 2, 3, 1});  // again
    add_face(m, {0, 0, 1});     // a corner repeated
    m.positions.emplace_back(9, 9, 9);
    const TopologyReport r = inspect_topology(m);
    REQUIRE(r.duplicate_faces == 1);
    REQUIRE(r.degenerate_faces == 1);
    REQUIRE(r.non_manifold_edges > 0);
    REQUIRE(r.unused_vertices == 1);
}

TEST_CASE("Mesh check: everything that an algorithm relies on") {
    Mesh m = cube();
    REQUIRE(check_mesh(m, "m"));
    m.positions[4].y() = std::nan("");
    REQUIRE(check_mesh(m, "m").error().message.find("vertex 4") != std::string::npos);
    m = cube();
    m.corner_vertex[5] = 8;
    REQUIRE(check_mesh(m, "m").error().message.find("corner 5 asks for vertex 8 of 8") != std::string::npos);
}

TEST_CASE("Closest point: agrees with trying every triangle") {
    const Mesh m = sheet(12, 10, [](double x, double y) { return std::sin(x) * std::cos(y); });
    const std::vector<Triangle> tri = triangulate(m).triangles;
    const SurfaceQuery query(m.positions, tri);
    for (const Vec3& p : random_points(300, 5, 6)) {
        double best = 1e300;
        for (const Triangle& t : tri)
            best = std::min(best,
                            closest_on_triangle(p, m.positions[t[0]], m.positions[t[1]], m.positions[t[2]]).distance);
        const SurfaceHit hit = query.closest(p, 100);
        REQUIRE(hit.distance == Approx(best).margin(1e-12));
        REQUIRE_FALSE(query.closest(p, best * 0.99 - 1e-9));
    }
    SECTION("only triangles that face the right way") {
        const FacingFilter down{Vec3(0, 0, -1), 0.1};
        REQUIRE_FALSE(query.closest(Vec3(0, 0, 1), 100, &down));
    }
}

TEST_CASE("Ray: hits the nearer side and misses beside") {
    const Mesh m = cube();
    const std::vector<Triangle> tri = triangulate(m).triangles;
    const SurfaceQuery query(m.positions, tri);
    const SurfaceHit hit = query.first_hit(Vec3(0.3, 0.4, 5), Vec3(0, 0, -2));
    REQUIRE(hit);
    REQUIRE((hit.position - Vec3(0.3, 0.4, 1)).norm() < 1e-6);
    REQUIRE(hit.distance == Approx(4));
    REQUIRE_FALSE(query.first_hit(Vec3(3, 0, 5), Vec3(0, 0, -1)));
}

TEST_CASE("Self-intersections: crossing sheets are found and pushed apart") {
    // two sheets face to face; the upper one dips below the lower one in the middle
    const auto dip = [](double x, double y) { return 0.3 - 0.6 * std::exp(-(x * x + y * y)); };
    Mesh lower = sheet(16, 8, [](double, double) { return 0.0; }), upper = sheet(16, 8, dip);
    Points x = lower.positions;
    std::vector<Triangle> tri = triangulate(lower).triangles;
    const Index shift = lower.vertex_count();
    for (Triangle t : triangulate(upper).triangles) tri.push_back({t[0] + shift, t[2] + shift, t[1] + shift});
    x.insert(x.end(), upper.positions.begin(), upper.positions.end());
    REQUIRE(self_intersections(lower.positions, triangulate(lower).triangles).empty());
    REQUIRE_FALSE(self_intersections(x, tri).empty());
    const std::size_t left = push_apart(x, tri, VertexMask(x.size(), 1), {});
    REQUIRE(left == 0);
    REQUIRE(self_intersections(x, tri).empty());
}

TEST_CASE("Self-intersections: skin that slipped through itself is taken out again, shapes around it stay") {
    // a flap that lies over a sheet and went through it with its tip, deeper than pushing apart would go
    const Mesh flat = sheet(16, 8, [](double, double) { return 0.0; });
    const Mesh flap = sheet(16, 8, [](double x, double y) { return 1.2 - 2.0 * std::exp(-0.5 * (x * x + y * y)); });
    Points x = flat.positions;
    std::vector<Triangle> tri = triangulate(flat).triangles;
    const Index shift = flat.vertex_count();
    for (Triangle t : triangulate(flap).triangles) tri.push_back({t[0] + shift, t[2] + shift, t[1] + shift});
    x.insert(x.end(), flap.positions.begin(), flap.positions.end());
    const auto before = self_intersections(x, tri);
    REQUIRE(before.size() > 20);

    Points apart = x;
    CHECK(untangle(apart, tri, VertexMask(x.size(), 1), {}) == 0);
    CHECK(self_intersections(apart, tri).empty());
    for (std::size_t v = 0; v < x.size(); ++v) {
        CHECK((apart[v] - x[v]).norm() < 1.5);
        if (std::hypot(x[v].x(), x[v].y()) > 3) CHECK(apart[v] == x[v]);
    }

    SECTION("what may not move stays, and what may cut is left alone") {
        VertexMask above(x.size(), 0);
        std::fill(above.begin() + shift, above.end(), char(1));
        Points half = x;
        UntangleOptions larger;
        larger.step_mm = 0.3;  // one side has to go all the way
        CHECK(untangle(half, tri, above, {}, nullptr, larger) == 0);
        for (Index v = 0; v < shift; ++v) CHECK(half[v] == x[v]);
        Points same = x;
        CHECK(untangle(same, tri, VertexMask(x.size(), 1), before) == 0);
        CHECK(same == x);
        CHECK(untangle(same, tri, VertexMask(x.size(), 0), {}) == 0);  // nobody's to take apart
        CHECK(same == x);
    }
    SECTION("what is to hold does, in what comes back") {
        UntangleOptions options;
        options.hold = [&](Points& p, const VertexIndices& moved) {
            CHECK(std::is_sorted(moved.begin(), moved.end()));
            p[0].z() = 7;
        };
        Points held = x;
        CHECK(untangle(held, tri, VertexMask(x.size(), 1), {}, nullptr, options) == 0);
        CHECK(held[0].z() == 7);
    }
    SECTION("no more cuts than before where nothing helps") {
        UntangleOptions options;
        options.hold = [&](Points& p, const VertexIndices&) { p = x, p[shift].z() += 1; };  // undoes every round
        Points same = x;
        CHECK(untangle(same, tri, VertexMask(x.size(), 1), {}, nullptr, options) == before.size());
        CHECK(same == x);
    }
}

TEST_CASE("Corner split: every corner keeps its vertex and its UV") {
    const Mesh m = decorated_cube();
    std::size_t triangles = 0;
    for (const MaterialSplit& s : split_by_material(m)) {
        triangles += s.triangles.size();
        REQUIRE(s.vertex.size() == s.uv.size());
        for (const Triangle& t : s.triangles) {
            for (Index v : t) REQUIRE(v < s.vertex.size());
        }
    }
    REQUIRE(triangles == 12);
}

TEST_CASE("Stand-in: fewer triangles of the same surface, facing the same way") {
    const Mesh m = sheet(60, 10, [](double x, double y) { return 0.3 * std::sin(x) * std::cos(y); });
    const std::vector<Triangle> all = triangulate(m).triangles;
    const std::vector<Triangle> few = stand_in_triangles(m.positions, all, 800);
    REQUIRE(few.size() < 1200);
    REQUIRE(few.size() > 200);
    double area = 0;
    for (const Triangle& t : few) {
        const Vec3 n = (m.positions[t[1]] - m.positions[t[0]]).cross(m.positions[t[2]] - m.positions[t[0]]);
        REQUIRE(n.z() > 0);
        area += 0.5 * n.norm();
    }
    REQUIRE(area > 80);  // of about 104
    REQUIRE(stand_in_triangles(m.positions, all, 1000000) == all);
}

TEST_CASE("Similarity: known transforms come back, outliers do not tilt it") {
    const Points from = random_points(30, 9, 80);
    Similarity truth;
    truth.scale = 0.37;
    truth.rotation = Eigen::AngleAxisd(2.1, Vec3(1, -2, 0.5).normalized()).toRotationMatrix();
    truth.translation = Vec3(5, 6, -7);
    Points to;
    for (const Vec3& p : from) to.push_back(truth(p));
    const auto exact = fit_similarity(from, to);
    REQUIRE(exact);
    REQUIRE(exact->scale == Approx(0.37));
    REQUIRE((exact->rotation - truth.rotation).norm() < 1e-9);
    REQUIRE(((truth * truth.inverse())(Vec3(1, 2, 3)) - Vec3(1, 2, 3)).norm() < 1e-12);
    for (int i = 0; i < 5; ++i) to[static_cast<std::size_t>(i)] += Vec3(60, -40, 30);
    const auto robust = fit_similarity(from, to);
    REQUIRE((robust->rotation - truth.rotation).norm() < 2e-3);
    SECTION("rigid when asked") {
        SimilarityOptions rigid;
        rigid.allow_scale = false;
        REQUIRE(fit_similarity(from, to, rigid)->scale == 1.0);
    }
    SECTION("points on one line and too few points are refused") {
        const Points line{{0, 0, 0}, {1, 1, 1}, {2, 2, 2}, {5, 5, 5}};
        REQUIRE(fit_similarity(line, line).error().code == ErrorCode::DegenerateInput);
        REQUIRE(fit_similarity({{0, 0, 0}, {1, 0, 0}}, {{0, 0, 0}, {1, 0, 0}}).error().code ==
                ErrorCode::DegenerateInput);
        const Points same(5, Vec3(1, 2, 3));
        REQUIRE_FALSE(fit_similarity(same, same));
    }
}

TEST_CASE("Solver: solves what was put in, and says when it cannot") {
    std::vector<std::pair<Index, Index>> pattern;
    const Index n = 200;
    for (Index i = 0; i + 1 < n; ++i) pattern.emplace_back(i + 1, i);
    SpdSolver solver(n, pattern);
    for (Index i = 0; i < n; ++i) {
        solver.values()[solver.slot(i, i)] = 2.5;
        if (i + 1 < n) solver.values()[solver.slot(i, i + 1)] = -1;
    }
    REQUIRE(solver.factor());
    const Points truth = random_points(static_cast<int>(n), 3);
    Points rhs(n, Vec3::Zero());
    for (Index i = 0; i < n; ++i) {
        rhs[i] = 2.5 * truth[i];
        if (i > 0) rhs[i] -= truth[i - 1];
        if (i + 1 < n) rhs[i] -= truth[i + 1];
    }
    const Points x = solver.solve(rhs);
    for (Index i = 0; i < n; ++i) REQUIRE((x[i] - truth[i]).norm() < 1e-12);
    // values that changed a little: by conjugate gradients with that factor; another matrix takes too many steps
    std::mt19937 random(3);
    for (Index i = 0; i < n; ++i) {
        const double more = std::uniform_real_distribution<double>(0, 0.5)(random);
        solver.values()[solver.slot(i, i)] += more;
        rhs[i] += more * truth[i];
    }
    const auto near = solver.solve_near(rhs, x, 1e-6, 12);
    REQUIRE(near);
    for (Index i = 0; i < n; ++i) REQUIRE(((*near)[i] - truth[i]).norm() < 1e-6);
    REQUIRE_FALSE(solver.solve_near(rhs, Points(n, Vec3::Ones()), 1e-12, 1));
    solver.values()[solver.slot(7, 7)] = -5;
    REQUIRE(solver.factor().error().code == ErrorCode::DegenerateInput);
}

TEST_CASE("Polyline: the closest point slides along it") {
    const Points line{{0, 0, 0}, {10, 0, 0}, {10, 10, 0}};
    REQUIRE((closest_on_polyline(Vec3(4, 3, 0), line) - Vec3(4, 0, 0)).norm() < 1e-12);
    REQUIRE((closest_on_polyline(Vec3(12, 20, 0), line) - Vec3(10, 10, 0)).norm() < 1e-12);
}

TEST_CASE("Statistics: quantiles and weights") {
    REQUIRE(median({3, 1, 2}) == 2);
    REQUIRE(quantile({5, 1, 4, 2, 3}, 1.0) == 5);
    REQUIRE(geman_mcclure(0, 2) == 1);
    REQUIRE(geman_mcclure(2, 2) == Approx(0.25));
}
