// Clean-up tools: known answers on small meshes, what hangs on the faces stays, input is untouched.
#include <catch2/catch.hpp>

#include <random>
#include <set>

#include "core/mesh/edges.h"
#include "core/tidy/cut.h"
#include "core/tidy/fill_holes.h"
#include "core/tidy/repair.h"
#include "core/tidy/resample.h"
#include "core/tidy/smooth.h"
#include "core/tidy/survey.h"
#include "core/tidy/weld.h"
#include "tests/support/broken_mesh.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

double volume(const Mesh& m) {
    double six = 0;
    for (const Triangle& t : triangulate(m).triangles)
        six += m.positions[t[0]].dot(m.positions[t[1]].cross(m.positions[t[2]]));
    return six / 6;
}

double area(const Mesh& m) {
    double sum = 0;
    for (Index f = 0; f < m.face_count(); ++f) sum += face_normal(m, f).norm();
    return sum;
}

Changed only(const Mesh& m, std::initializer_list<Index> faces) {
    FaceMask keep(m.face_count(), 0);
    for (Index f : faces) keep[f] = 1;
    return keep_faces(m, keep);
}

bool same_mesh(const Mesh& a, const Mesh& b) {
    return a.positions == b.positions && a.corner_vertex == b.corner_vertex && a.face_start == b.face_start &&
           a.uvs == b.uvs && a.corner_uv == b.corner_uv;
}

}  // namespace

TEST_CASE("Keep: faces go, what belongs to the others stays in order") {
    const Mesh m = decorated_cube();
    const Changed c = only(m, {1, 3});
    REQUIRE(c.mesh.face_count() == 2);
    REQUIRE(c.count == 4);
    REQUIRE(check_mesh(c.mesh, "kept"));
    REQUIRE(c.mesh.face_group == std::vector<Index>{0, 1});
    REQUIRE(c.mesh.face_material == std::vector<Index>{1, 0});
    for (Index k = 0; k < 4; ++k) {
        const Index now = c.mesh.corner_vertex[k], before = m.corner_vertex[m.face_start[1] + k];
        REQUIRE(c.mesh.positions[now] == m.positions[before]);
        REQUIRE(c.origin[now] == before);
        REQUIRE(c.mesh.uvs[c.mesh.corner_uv[k]] == m.uvs[m.corner_uv[m.face_start[1] + k]]);
    }
}

TEST_CASE("Weld: soup becomes a cube, seams keep both UVs") {
    const Mesh soup = seamed_cube();
    REQUIRE(soup.positions.size() == 24);
    const Changed c = weld(soup, 0);
    REQUIRE(c.mesh.positions.size() == 8);
    REQUIRE(c.mesh.face_count() == 6);
    REQUIRE(c.mesh.corner_uv == soup.corner_uv);
    REQUIRE(c.mesh.uvs == soup.uvs);
    REQUIRE(find_holes(c.mesh).empty());
    REQUIRE(volume(c.mesh) == Approx(1));
    REQUIRE(c.said.find("16 vertices") != std::string::npos);
}

TEST_CASE("Weld: within a distance, to the nearest, never in chains") {
    Mesh m;
    // a row of points 0.6 apart: none may be pulled along to its neighbour's neighbour
    for (int i = 0; i < 7; ++i) m.positions.emplace_back(0.6 * i, 0, 0), m.positions.emplace_back(0.6 * i, 1 + i, 0);
    for (Index i = 0; i + 3 < 14; i += 2) add_face(m, {i, i + 2, i + 3, i + 1});
    const Changed c = weld(m, 0.7);
    for (std::size_t v = 0; v < m.positions.size(); ++v) {
        double nearest = 1e9;
        for (const Vec3& p : c.mesh.positions) nearest = std::min(nearest, (p - m.positions[v]).norm());
        REQUIRE(nearest <= 0.7);
    }
    for (std::size_t a = 0; a < c.mesh.positions.size(); ++a) {
        for (std::size_t b = 0; b < a; ++b) REQUIRE((c.mesh.positions[a] - c.mesh.positions[b]).norm() > 0.7);
    }
    SECTION("a quad that loses a corner becomes a triangle") {
        Mesh quad;
        quad.positions = {{0, 0, 0}, {1, 0, 0}, {1, 0.001, 0}, {0, 1, 0}};
        add_face(quad, {0, 1, 2, 3});
        const Changed t = weld(quad, 0.01);
        REQUIRE(t.mesh.face_count() == 1);
        REQUIRE(t.mesh.face_size(0) == 3);
    }
    SECTION("agrees with the plain double loop on random points") {
        std::mt19937 random(5);
        std::uniform_real_distribution<double> u(0, 1);
        Mesh cloud;
        for (int i = 0; i < 600; ++i) cloud.positions.emplace_back(u(random), u(random), u(random));
        for (Index i = 0; i + 2 < 600; i += 3) add_face(cloud, {i, i + 1, i + 2});
        const double distance = GENERATE(0.02, 0.08);  // by sweep, by grid
        std::vector<Vec3> stayed;
        for (const Vec3& p : cloud.positions) {
            bool near = false;
            for (const Vec3& q : stayed) near |= (p - q).norm() <= distance;
            if (!near) stayed.push_back(p);
        }
        std::size_t used = 0;
        const Changed w = weld(cloud, distance);
        REQUIRE(w.count > 0);
        for (const Vec3& p : w.mesh.positions) used += std::find(stayed.begin(), stayed.end(), p) != stayed.end();
        REQUIRE(used == w.mesh.positions.size());
        REQUIRE(cloud.positions.size() - w.count == stayed.size());
    }
}

TEST_CASE("Repair: broken and repeated faces go, edges with many faces are cut apart") {
    Mesh m = cube();
    add_face(m, {0, 2, 3, 1});          // repeated
    add_face(m, {4, 5, 5, 7});          // corner twice
    m.positions.emplace_back(5, 5, 5);  // in no face
    const Changed clean = remove_broken_faces(m);
    REQUIRE(same_mesh(clean.mesh, cube()));
    REQUIRE(clean.count == 3);

    Mesh book = sheet(1, 2, [](double, double) { return 0.0; });
    book.positions.emplace_back(0, 0, 3);
    add_face(book, {0, 1, 4});  // a third page at the edge 0-1
    add_face(book, {1, 0, 4});
    const Changed split = split_non_manifold(book);
    REQUIRE(split.count > 0);
    const EdgeLinks links = link_edges(split.mesh);
    REQUIRE(std::count(links.mate.begin(), links.mate.end(), kManyFaces) == 0);
    REQUIRE(split.mesh.face_count() == book.face_count());
    REQUIRE(split.origin.size() == split.mesh.positions.size());
    for (std::size_t v = 0; v < split.origin.size(); ++v)
        REQUIRE((split.mesh.positions[v] - book.positions[split.origin[v]]).norm() < 1e-3);
    REQUIRE(inspect_topology(split.mesh).non_manifold_edges == 0);
}

TEST_CASE("Repair: an edge counts as one, however many faces hang on it") {
    for (const int pages : {3, 4, 5, 6}) {
        Mesh book;
        for (int k = 0; k < 2; ++k) {  // two of them, apart
            const Index first = book.vertex_count();
            book.positions.emplace_back(10 * k, 0, 0);
            book.positions.emplace_back(10 * k, 1, 0);
            for (int page = 0; page < pages; ++page) {
                const double angle = 2 * M_PI * page / pages;
                book.positions.emplace_back(10 * k + std::cos(angle), 0, std::sin(angle));
                add_face(book, {first, first + 1, book.vertex_count() - 1});
            }
        }
        const Changed split = split_non_manifold(book);
        INFO(split.said);
        CHECK(split.said.starts_with("2 edges with many faces"));
        CHECK(inspect_topology(split.mesh).non_manifold_edges == 0);
    }
}

TEST_CASE("Repair: shells inside out are turned, wholly or in part") {
    Mesh m = cube();
    REQUIRE(volume(m) > 0);
    REQUIRE(turn_outward(m).count == 0);
    FaceMask some(6, 0);
    some[1] = some[4] = 1;
    const Changed mixed = turn_outward(flip_faces(m, some).mesh);
    REQUIRE(mixed.count == 2);
    REQUIRE(volume(mixed.mesh) == Approx(1));
    const Mesh inside_out = flip_faces(m, {}).mesh;
    REQUIRE(volume(inside_out) == Approx(-1));
    const Changed back = turn_outward(inside_out);
    REQUIRE(back.count == 6);
    REQUIRE(volume(back.mesh) == Approx(1));
}

TEST_CASE("Pieces: the largest stays, or all that are large enough") {
    Mesh m = sheet(10, 100, [](double, double) { return 0.0; });
    append_sheet(m, 3, 30, Vec3(0, 0, 50));
    append_sheet(m, 1, 2, Vec3(0, 0, 90));
    REQUIRE(remove_small_components(m, {true, 0, 0}).mesh.face_count() == 100);
    REQUIRE(remove_small_components(m, {false, 0.02, 0}).mesh.face_count() == 109);
    REQUIRE(remove_small_components(m, {false, 0, 10}).mesh.face_count() == 109);
    REQUIRE(remove_small_components(m, {false, 0.5, 0}).mesh.face_count() == 100);
    REQUIRE(remove_small_components(m, {false, 0, 1}).count == 0);
    REQUIRE(count_selected(small_components(m, {false, 0.02, 0})) == 1);
}

TEST_CASE("Cut: area, UVs and colours are divided where the plane goes") {
    Mesh m = sheet(7, 70, [](double, double) { return 0.0; });
    for (const Vec3& p : m.positions) {
        m.uvs.emplace_back(p.x() / 70 + 0.5, p.y() / 70 + 0.5);
        m.colours.push_back({static_cast<std::uint8_t>(std::lround(100 + p.x())), 0, 0, 255});
    }
    m.corner_uv = m.corner_vertex;
    const auto cut = cut_by_plane(m, Plane::through(Vec3(13, 0, 0), Vec3(2, 0, 0)));
    REQUIRE(cut);
    REQUIRE(area(cut->mesh) == Approx((35 - 13) * 70));
    REQUIRE(check_mesh(cut->mesh, "cut"));
    for (std::size_t c = 0; c < cut->mesh.corner_vertex.size(); ++c) {
        const Vec3& p = cut->mesh.positions[cut->mesh.corner_vertex[c]];
        REQUIRE(p.x() >= 13 - 1e-9);
        REQUIRE(cut->mesh.uvs[cut->mesh.corner_uv[c]].x() == Approx(p.x() / 70 + 0.5));
        REQUIRE(cut->mesh.colours[cut->mesh.corner_vertex[c]].r == std::lround(100 + p.x()));
    }
    REQUIRE(find_holes(cut->mesh).size() == 1);  // neighbours share the new vertices
    const FaceMask behind = faces_behind(m, Plane::through(Vec3(13, 0, 0), Vec3(2, 0, 0)));
    for (Index f = 0; f < m.face_count(); ++f) REQUIRE(behind[f] == (face_centre(m, f).x() + 5 < 13));
    REQUIRE(cut_by_plane(m, Plane::through(Vec3(-99, 0, 0), Vec3(1, 0, 0)))->count == 0);
    REQUIRE(cut_by_plane(m, Plane::through(Vec3(99, 0, 0), Vec3(1, 0, 0))).error().code == ErrorCode::DegenerateInput);
    REQUIRE(cut_by_plane(m, Plane::through(Vec3::Zero(), Vec3::Zero())).error().code == ErrorCode::DegenerateInput);
}

TEST_CASE("Fill: a hole in a ball continues its curvature, a flat one is flat") {
    const Mesh ball = sphere(40, 100);
    FaceMask keep(ball.face_count(), 1);
    for (Index f = 0; f < ball.face_count(); ++f) keep[f] = (face_centre(ball, f) - Vec3(0, 0, 100)).norm() > 30;
    const Mesh open = keep_faces(ball, keep).mesh;
    REQUIRE(find_holes(open).size() == 1);
    FillOptions options;
    options.largest = 100;
    const Changed smooth = fill_holes(open, options);
    REQUIRE(smooth.count == 1);
    REQUIRE(find_holes(smooth.mesh).empty());
    REQUIRE(check_mesh(smooth.mesh, "filled"));
    double worst = 0;
    for (std::size_t v = open.positions.size(); v < smooth.mesh.positions.size(); ++v)
        worst = std::max(worst, std::abs(smooth.mesh.positions[v].norm() - 100));
    INFO("worst distance from the ball " << worst);
    CHECK(worst < 0.6);  // a flat lid would be 4.6 off
    options.form = FillForm::Flat;
    const Changed flat = fill_holes(open, options);
    REQUIRE(flat.mesh.positions.size() == open.positions.size());
    REQUIRE(find_holes(flat.mesh).empty());
    REQUIRE(volume(flat.mesh) < volume(smooth.mesh));
    REQUIRE(turn_outward(smooth.mesh).count == 0);
    options.largest = 20;
    REQUIRE(fill_holes(open, options).count == 0);
}

TEST_CASE("Fill: only holes at the selection, new faces take texture and colour from the rim") {
    Mesh m = sheet(12, 120, [](double, double) { return 0.0; });
    for (const Vec3& p : m.positions)
        m.uvs.emplace_back(p.x() / 1200 + 0.5, p.y() / 1200 + 0.5), m.colours.push_back({10, 200, 30, 255});
    m.corner_uv = m.corner_vertex;
    m.materials.resize(1);
    m.face_material.assign(m.face_count(), 0);
    FaceMask keep(m.face_count(), 1), near(m.face_count(), 0);
    keep[12 * 3 + 3] = keep[12 * 3 + 4] = keep[12 * 4 + 3] = keep[12 * 4 + 4] = 0;
    keep[12 * 8 + 8] = 0;
    Mesh open = keep_faces(m, keep).mesh;
    REQUIRE(find_holes(open).size() == 3);  // and the sheet's own border
    FillOptions options;
    options.largest = 60;
    REQUIRE(fill_holes(open, options).count == 2);
    near.resize(open.face_count());
    for (Index f = 0; f < open.face_count(); ++f)
        near[f] = face_centre(open, f).norm() < 50 && face_centre(open, f).x() < 0;
    options.near = near;
    const Changed one = fill_holes(open, options);
    REQUIRE(one.count == 1);
    for (Index f = open.face_count(); f < one.mesh.face_count(); ++f) {
        REQUIRE(one.mesh.face_material[f] == 0);
        for (Index c = one.mesh.face_start[f]; c < one.mesh.face_start[f + 1]; ++c) {
            const Vec3& p = one.mesh.positions[one.mesh.corner_vertex[c]];
            CHECK(one.mesh.uvs[one.mesh.corner_uv[c]].x() == Approx(p.x() / 1200 + 0.5).margin(0.006));
            CHECK(one.mesh.colours[one.mesh.corner_vertex[c]].g >= 198);
        }
    }
}

TEST_CASE("Smooth: noise goes, the volume stays, borders and the unselected are untouched") {
    Mesh ball = sphere(50, 100);
    std::mt19937 random(3);
    std::normal_distribution<double> noise(0, 0.5);
    const double before = volume(ball);
    for (Vec3& p : ball.positions) p *= 1 + noise(random) / 100;
    const auto rough = [](const Mesh& m) {
        double sum = 0;
        for (const Vec3& p : m.positions) sum += std::pow(p.norm() - 100, 2);
        return std::sqrt(sum / static_cast<double>(m.positions.size()));
    };
    const Changed c = smooth_keeping_volume(ball, std::vector<double>(ball.positions.size(), 1), {20, 1, true});
    REQUIRE(rough(c.mesh) < 0.45 * rough(ball));
    REQUIRE(volume(c.mesh) == Approx(before).epsilon(0.006));
    std::vector<double> half(ball.positions.size(), 0);
    for (std::size_t v = 0; v < half.size(); ++v) half[v] = ball.positions[v].x() > 0;
    const Changed part = smooth_keeping_volume(ball, half, {5, 1, true});
    for (std::size_t v = 0; v < half.size(); ++v) {
        if (half[v] == 0) REQUIRE(part.mesh.positions[v] == ball.positions[v]);
    }
    const Mesh flat = sheet(6, 60, [](double x, double y) { return std::sin(x) + std::cos(y); });
    const Changed borders = smooth_keeping_volume(flat, std::vector<double>(flat.positions.size(), 1), {10, 1, true});
    for (Index i = 0; i <= 6; ++i) REQUIRE(borders.mesh.positions[i] == flat.positions[i]);
}

TEST_CASE("Flatten: a bump on a plane is gone, the rest is as it was") {
    Mesh m = sheet(30, 90, [](double x, double y) { return 0.1 * x + 6 * std::exp(-(x * x + y * y) / 60); });
    std::vector<double> weight(m.positions.size(), 0);
    for (std::size_t v = 0; v < weight.size(); ++v) weight[v] = m.positions[v].head<2>().norm() < 25;
    const auto flat = flatten_bumps(m, weight, 1);
    REQUIRE(flat);
    for (std::size_t v = 0; v < weight.size(); ++v) {
        const Vec3& p = flat->mesh.positions[v];
        if (weight[v] == 0)
            REQUIRE(p == m.positions[v]);
        else
            CHECK(p.z() == Approx(0.1 * p.x()).margin(0.05));
    }
    const auto half = flatten_bumps(m, weight, 0.5);
    REQUIRE((half->mesh.positions[480] - 0.5 * (flat->mesh.positions[480] + m.positions[480])).norm() < 1e-9);
    REQUIRE(flatten_bumps(sphere(10, 5), std::vector<double>(sphere(10, 5).positions.size(), 1), 1).error().code ==
            ErrorCode::BadInput);
}

TEST_CASE("Spikes: they go back, sharp but honest forms stay") {
    Mesh m = sheet(40, 120, [](double x, double y) { return 10 * std::sin(x / 20) * std::cos(y / 25); });
    const Mesh clean = m;
    REQUIRE(remove_spikes(clean, 8, {}).count == 0);
    std::set<Index> spiked{500, 733, 1010};
    for (Index v : spiked) m.positions[v] += Vec3(3, -4, 40);
    const Changed c = remove_spikes(m, 8, {});
    REQUIRE(c.count >= 3);
    for (std::size_t v = 0; v < m.positions.size(); ++v)
        REQUIRE((c.mesh.positions[v] - clean.positions[v]).norm() < 2.0);
    VertexMask none(m.positions.size(), 0);
    REQUIRE(remove_spikes(m, 8, none).count == 0);
}

TEST_CASE("Reduce: form, UVs at their vertices and the seam stay") {
    Mesh m = sheet(80, 160, [](double x, double y) { return 8 * std::sin(x / 30) * std::cos(y / 30); });
    for (const Vec3& p : m.positions) m.uvs.push_back(p.head<2>() / 160);
    m.corner_uv = m.corner_vertex;
    const Changed c = reduce_triangles(m, 2500);
    REQUIRE(c.mesh.face_count() <= 2600);
    REQUIRE(c.mesh.face_count() > 1500);
    REQUIRE(check_mesh(c.mesh, "reduced"));
    for (std::size_t k = 0; k < c.mesh.corner_vertex.size(); ++k) {
        const Vec3& p = c.mesh.positions[c.mesh.corner_vertex[k]];
        REQUIRE(c.mesh.uvs[c.mesh.corner_uv[k]] == Vec2(p.head<2>() / 160));
        REQUIRE(std::abs(p.z() - 8 * std::sin(p.x() / 30) * std::cos(p.y() / 30)) < 1e-9);
    }
    REQUIRE(area(c.mesh) == Approx(area(m)).epsilon(0.01));
    REQUIRE(reduce_triangles(m, 99999).count == 0);
}

TEST_CASE("Remesh: even edges on the same surface, the texture taken over") {
    Mesh m = sphere(60, 50);
    for (const Vec3& p : m.positions) m.uvs.emplace_back(0.5 + p.x() / 200, 0.5 + p.y() / 200);
    m.corner_uv = m.corner_vertex;
    const auto c = remesh_evenly(m, 4);
    REQUIRE(c);
    REQUIRE(check_mesh(c->mesh, "remeshed"));
    REQUIRE(find_holes(c->mesh).empty());
    double longest = 0;
    const EdgeLinks links = link_edges(c->mesh);
    for (Index f = 0; f < c->mesh.face_count(); ++f) {
        for (Index k = c->mesh.face_start[f]; k < c->mesh.face_start[f + 1]; ++k) {
            const Vec3& p = c->mesh.positions[c->mesh.corner_vertex[k]];
            longest = std::max(longest,
                               (c->mesh.positions[c->mesh.corner_vertex[next_corner(c->mesh, links, k)]] - p).norm());
            CHECK(p.norm() == Approx(50).epsilon(0.01));
            CHECK(c->mesh.uvs[c->mesh.corner_uv[k]].x() == Approx(0.5 + p.x() / 200).margin(0.005));
        }
    }
    REQUIRE(longest < 7.5);
    REQUIRE(c->mesh.face_count() == Approx(31416 / (0.433 * 16)).epsilon(0.2));
    REQUIRE(remesh_evenly(m, 1e-4).error().code == ErrorCode::BadInput);
    SECTION("open borders and fins keep their course") {
        Mesh flat = sheet(10, 100, [](double, double) { return 0.0; });
        flat.positions.emplace_back(0, 0, 40);
        add_face(flat, {60, 61, 121});  // a fin on an inner edge
        const auto even = remesh_evenly(flat, 6);
        REQUIRE(even);
        REQUIRE(check_mesh(even->mesh, "fin"));
        REQUIRE(area(even->mesh) == Approx(100 * 100 + 0.5 * 10 * 40).epsilon(0.01));
        REQUIRE(inspect_topology(even->mesh).non_manifold_edges >= 1);
    }
}

TEST_CASE("Survey: what is wrong is found and the tool for it named") {
    Rng rng(9);
    const Mesh m = broken_scan(rng);
    Similarity metres;
    const Survey s = survey(m, metres);
    REQUIRE(s.components_small > 0);
    REQUIRE(s.topology.degenerate_faces > 0);
    const auto has = [&](Tool tool) {
        return std::any_of(s.findings.begin(), s.findings.end(),
                           [&](const Finding& f) { return f.repaired_by == tool; });
    };
    REQUIRE(has(Tool::Components));
    REQUIRE(has(Tool::Repair));
    for (std::size_t i = 1; i < s.findings.size(); ++i)
        REQUIRE(static_cast<int>(s.findings[i - 1].weight) >= static_cast<int>(s.findings[i].weight));
    const Survey fine = survey(sphere(60, 120), metres);
    REQUIRE(std::none_of(fine.findings.begin(), fine.findings.end(),
                         [](const Finding& f) { return f.weight == Weight::Problem; }));
}
