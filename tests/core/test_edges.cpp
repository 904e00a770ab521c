// Edges, borders, pieces, light versions: what every clean-up tool and the window rely on.
#include <catch2/catch.hpp>

#include <random>
#include <set>

#include "core/landmark/surface_pick.h"
#include "core/mesh/edges.h"
#include "core/mesh/stand_in.h"
#include "core/mesh/topology.h"
#include "tests/support/broken_mesh.h"

using namespace veld;

namespace {

// What link_edges says, found by comparing every corner with every other.
std::vector<Index> mates_by_trying(const Mesh& m, const std::vector<Index>& place) {
    const auto at = [&](Index c) { return place.empty() ? m.corner_vertex[c] : place[m.corner_vertex[c]]; };
    std::vector<Index> face_of(m.corner_vertex.size()), out(m.corner_vertex.size(), kNone);
    for (Index f = 0; f < m.face_count(); ++f) {
        for (Index c = m.face_start[f]; c < m.face_start[f + 1]; ++c) face_of[c] = f;
    }
    const auto ends = [&](Index c) {
        const Index a = at(c), b = at(next_corner(m, {{}, face_of}, c));
        return std::pair{std::min(a, b), std::max(a, b)};
    };
    for (Index c = 0; c < out.size(); ++c) {
        const auto [a, b] = ends(c);
        if (a == b) continue;
        int others = 0;
        for (Index d = 0; d < out.size(); ++d) {
            if (d == c || ends(d) != std::pair{a, b}) continue;
            out[c] = d;
            ++others;
        }
        if (others > 1) out[c] = kManyFaces;
    }
    return out;
}

}  // namespace

TEST_CASE("Edges: partners agree with trying every pair, on whole and broken meshes") {
    std::vector<Mesh> meshes{cube(), seamed_cube(), sphere(5, 10), sheet(4, 1, [](double, double) { return 0.0; })};
    for (unsigned seed = 1; seed <= 4; ++seed) {
        Rng rng(seed);
        meshes.push_back(broken_scan(rng));
    }
    for (const Mesh& m : meshes) {
        for (const bool through_seams : {false, true}) {
            const std::vector<Index> place = through_seams ? same_place(m.positions) : std::vector<Index>();
            const EdgeLinks links = link_edges(m, place);
            REQUIRE(links.mate == mates_by_trying(m, place));
            for (Index c = 0; c < links.mate.size(); ++c) {
                REQUIRE(m.face_start[links.corner_face[c]] <= c);
                REQUIRE(c < m.face_start[links.corner_face[c] + 1]);
            }
        }
    }
}

TEST_CASE("Places: vertices at one place are found whatever their number, zero has no sign") {
    Points p{{0, 0, 0}, {1, 2, 3}, {-0.0, 0, -0.0}, {1, 2, 3.0000001}, {1, 2, 3}, {5, 5, 5}, {1, 2, 3}};
    REQUIRE(same_place(p) == std::vector<Index>{0, 1, 0, 3, 1, 5, 1});
    std::mt19937 random(11);
    Points many;
    for (int i = 0; i < 3000; ++i) many.emplace_back(random() % 12, random() % 12, random() % 12);
    const std::vector<Index> place = same_place(many);
    for (Index v = 0; v < many.size(); ++v) {
        REQUIRE(many[place[v]] == many[v]);
        REQUIRE(place[v] == static_cast<Index>(std::find(many.begin(), many.end(), many[v]) - many.begin()));
    }
    REQUIRE(same_place({}).empty());
}

TEST_CASE("Borders: loops run along their faces, also where they touch") {
    const Mesh flat = sheet(6, 6, [](double, double) { return 0.0; });
    std::vector<char> keep(flat.face_count(), 1);
    keep[14] = 0;  // two holes that touch in one vertex
    keep[21] = 0;
    Mesh m;
    m.positions = flat.positions;
    for (Index f = 0; f < flat.face_count(); ++f) {
        if (keep[f])
            add_face(m, {flat.corner_vertex[4 * f], flat.corner_vertex[4 * f + 1], flat.corner_vertex[4 * f + 2],
                         flat.corner_vertex[4 * f + 3]});
    }
    const EdgeLinks links = link_edges(m);
    const auto loops = border_loops(m, links);
    std::size_t corners = 0;
    for (const auto& loop : loops) {
        corners += loop.size();
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const Index c = loop[i], next = loop[(i + 1) % loop.size()];
            REQUIRE(links.mate[c] == kNone);
            REQUIRE(m.corner_vertex[next_corner(m, links, c)] == m.corner_vertex[next]);
        }
    }
    REQUIRE(corners == 24 + 8);
    REQUIRE(loops.size() >= 2);
    REQUIRE(border_loops(cube(), link_edges(cube())).empty());
}

TEST_CASE("Faces: normals and middles of polygons, pieces through seams") {
    const Mesh m = cube();
    for (Index f = 0; f < 6; ++f) {
        REQUIRE(face_normal(m, f).norm() == Approx(1));
        REQUIRE(face_normal(m, f).dot(face_centre(m, f) - Vec3(0.5, 0.5, 0.5)) == Approx(0.5));
    }
    Index pieces = 0;
    const Mesh soup = seamed_cube();
    (void)face_components(soup, {}, &pieces);
    REQUIRE(pieces == 6);
    REQUIRE(face_components(soup, same_place(soup.positions), &pieces) == std::vector<Index>(6, 0));
    REQUIRE(pieces == 1);
}

TEST_CASE("Inspection: repeated faces are found whatever corner they begin with") {
    Mesh m = cube();
    REQUIRE(inspect_topology(m).duplicate_faces == 0);
    add_face(m, {3, 1, 0, 2});
    add_face(m, {5, 1, 3, 7});
    add_face(m, {0, 1, 2});  // not the quad
    REQUIRE(inspect_topology(m).duplicate_faces == 2);
    Rng rng(3);
    const Mesh ball = sphere(40, 5);
    REQUIRE(inspect_topology(ball).duplicate_faces == 0);
}

TEST_CASE("Light version: the same surface with its texture, every vertex one of the heavy mesh") {
    Mesh ball = sphere(120, 100);
    for (const Vec3& p : ball.positions)
        ball.uvs.emplace_back(p.x() / 300 + 0.5, p.y() / 300 + 0.5),
            ball.colours.push_back({static_cast<std::uint8_t>(p.z() + 120), 5, 6, 255});
    ball.corner_uv = ball.corner_vertex;
    ball.materials.resize(2);
    for (Index f = 0; f < ball.face_count(); ++f) ball.face_material.push_back(f % 2);
    const LightMesh light = light_version(ball, 8000);
    REQUIRE(check_mesh(light.mesh, "light"));
    REQUIRE(light.mesh.face_count() < 14000);
    REQUIRE(light.mesh.face_count() > 3000);
    REQUIRE(light.origin.size() == light.mesh.positions.size());
    for (std::size_t v = 0; v < light.origin.size(); ++v) {
        REQUIRE(light.mesh.positions[v] == ball.positions[light.origin[v]]);
        REQUIRE(light.mesh.colours[v] == ball.colours[light.origin[v]]);
    }
    for (std::size_t c = 0; c < light.mesh.corner_vertex.size(); ++c) {
        const Vec3& p = light.mesh.positions[light.mesh.corner_vertex[c]];
        const Vec2& uv = light.mesh.uvs[light.mesh.corner_uv[c]];
        REQUIRE(uv.x() == Approx(p.x() / 300 + 0.5).margin(0.03));  // within a cell
    }
    double outward = 0;
    for (Index f = 0; f < light.mesh.face_count(); ++f)
        outward += face_normal(light.mesh, f).dot(face_centre(light.mesh, f).normalized());
    REQUIRE(outward == Approx(4 * M_PI * 100 * 100).epsilon(0.1));
}

TEST_CASE("Picking: a hit on the light version becomes the exact place on the heavy mesh") {
    const Mesh ball = sphere(150, 100);
    const LightMesh light = light_version(ball, 3000);
    const Triangulation rough = triangulate(light.mesh), fine = triangulate(ball);
    const SurfaceQuery rough_query(light.mesh.positions, rough.triangles), fine_query(ball.positions, fine.triangles);
    std::mt19937 random(4);
    std::uniform_real_distribution<double> u(-60, 60);
    for (int i = 0; i < 60; ++i) {
        const Vec3 eye(u(random), u(random), 500), direction = 3.0 * (Vec3(u(random), u(random), 0) - eye);
        const SurfaceHit near = rough_query.first_hit(eye, direction), exact = fine_query.first_hit(eye, direction);
        if (!near || !exact) continue;
        const SurfaceHit refined = exact_hit(ball, eye, direction, near);
        CHECK((refined.position - exact.position).norm() < 1e-3);
    }
    const SurfaceHit nothing =
        exact_hit(ball, Vec3(0, 0, 500), Vec3(0, 0, -1), SurfaceHit{7, Vec3(0, 0, 9999), {1, 0, 0}, 9999});
    REQUIRE(nothing.triangle == 7);  // nothing of the heavy mesh is near that place
}

TEST_CASE("Tiles: faces of one material part by the tile they lie in") {
    Mesh m = sheet(2, 2, [](double, double) { return 0.0; });
    for (const Vec3& p : m.positions) m.uvs.emplace_back(p.x() + 1, p.y() + 1);  // four tiles
    m.corner_uv = m.corner_vertex;
    m.images.resize(2);
    m.materials.resize(1);
    m.materials[0].name = "skin";
    m.materials[0].tiles = {{1001, 0}, {1012, 1}};
    m.face_material.assign(4, 0);
    REQUIRE(has_tiles(m));
    REQUIRE(udim_of(Vec2(0.5, 0.5)) == 1001);
    REQUIRE(udim_of(Vec2(1.5, 1.5)) == 1012);
    REQUIRE(udim_of(Vec2(-3, 0.5)) == 1001);
    const Mesh t = tiles_as_materials(m);
    REQUIRE_FALSE([&] { return t.materials[t.face_material[0]].tiles.size() > 0; }());
    std::set<std::string> names;
    for (Index f = 0; f < 4; ++f) names.insert(t.materials[t.face_material[f]].name);
    REQUIRE(names == std::set<std::string>{"skin.1001", "skin.1002", "skin.1011", "skin.1012"});
    REQUIRE(t.materials[t.face_material[0]].image == 0);
    REQUIRE(t.materials[t.face_material[1]].image == -1);
    REQUIRE(t.materials[t.face_material[3]].image == 1);
    REQUIRE(t.positions == m.positions);
}
