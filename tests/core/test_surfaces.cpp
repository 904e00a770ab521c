// What everything on a surface is built from, against answers that are known beforehand.
#include <catch2/catch.hpp>

#include <numeric>

#include <random>
#include <set>

#include "core/base/units.h"
#include "core/detect/doubt.h"
#include "core/fit/creases.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/surface_energy.h"
#include "core/mesh/local_normals.h"
#include "core/mesh/surface_distance.h"
#include "core/spatial/section.h"
#include "core/spatial/sight.h"
#include "core/tidy/suggest.h"
#include "tests/support/demo_kit.h"
#include "tests/support/fan_mesh.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

double wave(double x, double y) { return 4 * std::sin(0.1 * x) * std::cos(0.07 * y); }

FaceIndices all_faces(const Mesh& mesh) {
    FaceIndices out(mesh.face_count());
    for (Index f = 0; f < mesh.face_count(); ++f) out[f] = f;
    return out;
}

// One in the middle of a sheet of n x n quads, zero on its rim.
VertexMask inside_of_sheet(int n) {
    VertexMask out;
    for (int j = 0; j <= n; ++j) {
        for (int i = 0; i <= n; ++i) out.push_back(i > 0 && j > 0 && i < n && j < n);
    }
    return out;
}

// The energy as surface_energy.h writes it, where every T is the identity, summed term by term.
double energy_at_rest(const SurfaceStencil& s, const std::vector<double>& stiffness, const Points& base,
                      const Points& x, double lambda, double mu) {
    double out = 0;
    for (std::size_t r = 0; r < s.ring_vertex.size(); ++r) {
        const Index v = s.ring_vertex[r];
        Vec3 bent = Vec3::Zero();
        for (Index k = s.ring_start[r]; k < s.ring_start[r + 1]; ++k) {
            const Vec3 change = (x[s.neighbour[k]] - x[v]) - (base[s.neighbour[k]] - base[v]);
            bent += s.weight[k] * change;
            // an edge is met from both of its ends, with the stiffness of each
            out += 0.5 * mu * mu * stiffness[v] * s.weight[k] * change.squaredNorm();
        }
        out += std::pow(lambda, 4) * stiffness[v] / s.area[r] * bent.squaredNorm();
    }
    return out;
}

// Two sheets of 40 mm that face each other, or turn their backs to each other, across a gap.
Mesh two_sheets(double gap, bool face_to_face) {
    constexpr int n = 20;
    Mesh low = sheet(n, 40, [](double, double) { return 0.0; });
    const Index count = low.vertex_count();
    Mesh out = low;
    for (const Vec3& p : low.positions) out.positions.push_back(p + Vec3(0, 0, gap));
    for (Index f = 0; f < low.face_count(); ++f) {
        const Index* c = &low.corner_vertex[low.face_start[f]];
        add_face(out, {count + c[3], count + c[2], count + c[1], count + c[0]});
    }
    if (!face_to_face) {
        for (Vec3& p : out.positions) p.z() = -p.z();
    }
    return out;
}

}  // namespace

TEST_CASE("Surfaces: a similarity of a bent sheet costs nothing: the energy's minimum is that very shape") {
    constexpr int n = 14;
    const Mesh mesh = sheet(n, 90, wave);
    const SurfaceStencil stencil = make_stencil(mesh, all_faces(mesh), inside_of_sheet(n));
    REQUIRE(stencil.vertex.size() == (n - 1) * (n - 1));
    const Mat3 turn = Eigen::AngleAxisd(0.8, Vec3(1, 2, -0.5).normalized()).toRotationMatrix();
    Points moved;
    for (const Vec3& p : mesh.positions) moved.push_back(1.3 * (turn * p) + Vec3(50, -20, 1500));
    SurfaceEnergy energy(stencil, mesh.positions, {});
    Points rhs;
    energy.assemble(12, 0.7, moved, rhs);
    REQUIRE(energy.solver().factor());
    const Points solved = energy.solver().solve(rhs);
    for (std::size_t u = 0; u < solved.size(); ++u) REQUIRE((solved[u] - moved[stencil.vertex[u]]).norm() < 1e-7);
}

TEST_CASE("Surfaces: the assembled system is the energy's, term by term") {
    constexpr int n = 7;
    const Mesh mesh = sheet(n, 60, wave);
    const SurfaceStencil stencil = make_stencil(mesh, all_faces(mesh), inside_of_sheet(n));
    std::mt19937 random(7);
    std::uniform_real_distribution<double> any(-1, 1);
    std::vector<double> stiffness;
    for (std::size_t v = 0; v < mesh.positions.size(); ++v) stiffness.push_back(1.5 + any(random));
    Points wanted;
    for (const Vec3& p : mesh.positions) wanted.push_back(p + 3 * Vec3(any(random), any(random), any(random)));
    const double lambda = 9, mu = 1.1;
    SurfaceEnergy energy(stencil, mesh.positions, {});
    energy.set_stiffness(stiffness);
    Points rhs;
    energy.assemble(lambda, mu, mesh.positions, rhs);  // at the base's own shape every local map is the identity
    SpdSolver& solver = energy.solver();
    for (Index u = 0; u < stencil.vertex.size(); ++u) {
        const Index v = stencil.vertex[u];
        solver.values()[solver.slot(u, u)] += stencil.vertex_area[v];
        rhs[u] += stencil.vertex_area[v] * wanted[v];
    }
    REQUIRE(solver.factor());
    const Points solved = solver.solve(rhs);
    Points best = mesh.positions;
    for (Index u = 0; u < stencil.vertex.size(); ++u) best[stencil.vertex[u]] = solved[u];
    const auto total = [&](const Points& x) {
        double out = energy_at_rest(stencil, stiffness, mesh.positions, x, lambda, mu);
        for (const Index v : stencil.vertex) out += stencil.vertex_area[v] * (x[v] - wanted[v]).squaredNorm();
        return out;
    };
    const double least = total(best);
    CHECK(least < total(mesh.positions));
    CHECK(least < total(wanted));
    // a minimum: whatever way one leaves it, the sum rises, and by the same on both sides
    for (int i = 0; i < 20; ++i) {
        Points there = best, back = best;
        for (const Index v : stencil.vertex) {
            const Vec3 step = 0.01 * Vec3(any(random), any(random), any(random));
            there[v] += step, back[v] -= step;
        }
        const double up = total(there) - least, down = total(back) - least;
        CHECK(up > 0);
        CHECK(up == Approx(down).epsilon(1e-5));
    }
}

TEST_CASE("Surfaces: between two sheets one sees out only along them, and each faces the other") {
    SECTION("face to face, one millimetre apart") {
        const Mesh mesh = two_sheets(1, true);
        const auto triangles = triangulate(mesh).triangles;
        VertexMask wanted(mesh.positions.size(), 1);
        wanted[0] = 0;
        const auto open = openness(mesh.positions, triangles, wanted, 10);
        const Index middle = mesh.vertex_count() / 4;  // of the lower sheet
        REQUIRE(mesh.positions[middle].norm() < 1e-12);
        // of 64 directions, spread by the cosine, one is so flat that it goes on for ten millimetres
        CHECK(open[middle] == Approx(1.0 / 64));
        CHECK(open[0] == 1);  // nobody asked
        const auto pairs = contact_pairs(mesh.positions, triangles, open, 3, 0.3);
        bool found = false;
        for (const ContactPair& pair : pairs) {
            Vec3 other = Vec3::Zero();
            for (std::size_t k = 0; k < 3; ++k) other += pair.weights[k] * mesh.positions[pair.other[k]];
            CHECK(std::abs(std::abs(other.z() - mesh.positions[pair.vertex].z()) - 1) < 1e-9);
            CHECK((other - mesh.positions[pair.vertex]).norm() == Approx(1));
            found |= pair.vertex == middle;
        }
        CHECK(found);
        CHECK(contact_pairs(mesh.positions, triangles, open, 0.5, 0.3).empty());  // farther than that
    }
    SECTION("back to back they are a thin wall: open, and no pairs") {
        const Mesh mesh = two_sheets(1, false);
        const auto triangles = triangulate(mesh).triangles;
        const auto open = openness(mesh.positions, triangles, VertexMask(mesh.positions.size(), 1), 10);
        CHECK(*std::min_element(open.begin(), open.end()) == 1);
        CHECK(contact_pairs(mesh.positions, triangles, std::vector<double>(open.size(), 0), 3, 0.3).empty());
    }
}

TEST_CASE("Surfaces: ways along the edges are as long as they are, and go round what bars them") {
    constexpr int n = 10;
    const Mesh mesh = sheet(n, 100, [](double, double) { return 0.0; });
    const auto at = [&](int i, int j) { return static_cast<Index>(j * (n + 1) + i); };
    const Adjacency ways = vertex_neighbours(triangulate(mesh).triangles, mesh.vertex_count());
    SECTION("straight, and over the quads' diagonals") {
        const auto d = surface_distances(mesh.positions, ways, {at(0, 0)});
        CHECK(d.distance[at(7, 0)] == Approx(70));
        CHECK(d.distance[at(0, 4)] == Approx(40));
        CHECK(d.distance[at(5, 5)] == Approx(5 * std::sqrt(200.0)));
    }
    SECTION("round a wall with one gap") {
        VertexMask passable(mesh.positions.size(), 1);
        for (int j = 0; j < n; ++j) passable[at(5, j)] = 0;  // open at the top only
        const auto d = surface_distances(mesh.positions, ways, {at(4, 0)}, &passable);
        CHECK(d.distance[at(5, 0)] == std::numeric_limits<double>::infinity());
        CHECK(d.distance[at(6, 0)] >= 200);
        CHECK(d.distance[at(6, 0)] < 225);
    }
    SECTION("each vertex knows whose it is; of two as near the earlier one") {
        const auto d = surface_distances(mesh.positions, ways, {at(0, 5), at(10, 5)});
        CHECK(d.source[at(2, 5)] == 0);
        CHECK(d.source[at(8, 5)] == 1);
        CHECK(d.source[at(5, 5)] == 0);
    }
    SECTION("nothing to start from leads nowhere") {
        CHECK(surface_distances(mesh.positions, ways, {}).source[3] == kNone);
    }
}

TEST_CASE("Surfaces: normals made again around a change are those of the whole") {
    const Mesh mesh = random_sheet(11);
    const auto triangles = triangulate(mesh).triangles;
    const Adjacency triangles_of = vertex_triangles(triangles, mesh.vertex_count());
    Points normals = vertex_normals(mesh.positions, triangles), moved = mesh.positions;
    const VertexIndices touched{17, 18, 40};
    for (const Index v : touched) moved[v] += Vec3(1, -2, 6);
    const VertexIndices renewed = renew_normals(moved, triangles, triangles_of, touched, normals);
    const Points whole = vertex_normals(moved, triangles);
    for (Index v = 0; v < mesh.vertex_count(); ++v) CHECK((normals[v] - whole[v]).norm() < 1e-12);
    for (const Index v : touched) CHECK(std::find(renewed.begin(), renewed.end(), v) != renewed.end());
    CHECK(renewed.size() < mesh.vertex_count() / 2);
}

TEST_CASE("Surfaces: every up axis is turned to Y without mirroring, every unit has its name") {
    const std::pair<UpAxis, Vec3> axes[] = {{UpAxis::PlusX, Vec3::UnitX()}, {UpAxis::MinusX, -Vec3::UnitX()},
                                            {UpAxis::PlusY, Vec3::UnitY()}, {UpAxis::MinusY, -Vec3::UnitY()},
                                            {UpAxis::PlusZ, Vec3::UnitZ()}, {UpAxis::MinusZ, -Vec3::UnitZ()}};
    for (const auto& [axis, up] : axes) {
        const Mat3 turn = rotation_to_y_up(axis);
        CHECK((turn * up - Vec3::UnitY()).norm() < 1e-15);
        CHECK(turn.determinant() == Approx(1));
        CHECK((turn * turn.transpose() - Mat3::Identity()).norm() < 1e-15);
        CHECK(up_axis_from_name(up_axis_name(axis)) == axis);
    }
    for (const Unit unit : kAllUnits) CHECK(unit_from_name(unit_name(unit)) == unit);
    CHECK(millimetres(Unit::Inch) == Approx(25.4));
    CHECK(millimetres(Unit::Foot) == Approx(12 * 25.4));
    CHECK_FALSE(unit_from_name("parsec"));
}

TEST_CASE("Doubts: whatever speaks against a point makes it no surer") {
    const auto with = [](double Evidence::*what, double amount) {
        Evidence e;
        e.usual = usual_error("nose");
        e.*what = amount;
        return expected_error(e);
    };
    const double usual = with(&Evidence::usual, usual_error("nose"));
    CHECK(usual == Approx(usual_error("nose")));
    for (double Evidence::*what : {&Evidence::spread, &Evidence::disagree, &Evidence::surface, &Evidence::unmatched,
                                   &Evidence::bent, &Evidence::colour, &Evidence::closed, &Evidence::fade}) {
        double before = usual;
        for (const double amount : {0.25, 0.5, 1.0, 4.0, 20.0}) {
            const double now = with(what, amount);
            CHECK(now >= before);
            before = now;
        }
        CHECK(before > 1.5 * usual);  // plenty of it is always seen
    }
    // sure in general, doubted when the fit lies far off the surface
    Evidence far;
    far.usual = usual_error("eye"), far.surface = 5;
    CHECK(unsure(trust_from(far)));
    CHECK_FALSE(unsure(trust_from({usual_error("eye")})));
}

TEST_CASE("Suggest: a stand beside the head is proposed, the face never is") {
    const BaseKit& kit = *demo_kit();
    VertexMask of_head(kit.mesh.positions.size(), 0), of_face = of_head;
    for (const Index v : kit.region("head_skin")) of_head[v] = 1;
    for (const Index v : kit.region("face")) of_face[v] = 1;
    FaceMask keep(kit.mesh.face_count(), 0);
    for (const Index f : skin_faces(kit)) {
        keep[f] = 1;
        for (Index c = kit.mesh.face_start[f]; c < kit.mesh.face_start[f + 1]; ++c)
            keep[f] &= of_head[kit.mesh.corner_vertex[c]];
    }
    const Changed head = keep_faces(kit.mesh, keep);
    Mesh mesh;
    mesh.positions = head.mesh.positions, mesh.face_start = head.mesh.face_start,
    mesh.corner_vertex = head.mesh.corner_vertex;
    const Index skin = mesh.face_count();
    // a wall of 120 x 120 mm, 160 mm to the side, of many small faces
    const Vec3 nose = kit.landmarks.at("pronasale").at(kit.mesh.positions);
    const Mesh plate = sheet(24, 120, [](double, double) { return 0.0; });
    const Index from = mesh.vertex_count();
    for (const Vec3& p : plate.positions) mesh.positions.push_back(nose + Vec3(160, p.x(), p.y() - 100));
    for (Index f = 0; f < plate.face_count(); ++f) {
        const Index* c = &plate.corner_vertex[plate.face_start[f]];
        add_face(mesh, {from + c[0], from + c[1], from + c[2], from + c[3]});
    }
    const FaceMask suggested = suggest_ignored(mesh, {}, kit);
    REQUIRE(suggested.size() == mesh.face_count());
    Index stand = 0, face = 0;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        if (f >= skin)
            stand += suggested[f];
        else if (of_face[head.origin[mesh.corner_vertex[mesh.face_start[f]]]])
            face += suggested[f];
    }
    CHECK(stand == plate.face_count());
    CHECK(face == 0);
}

TEST_CASE("Planes: sides, nearest places and where rays meet them") {
    const Plane plane = Plane::through(Vec3(0, 10, 0), Vec3(0, 4, 0));
    CHECK(plane.side(Vec3(3, 12, 5)) == Approx(2));
    CHECK((plane.nearest(Vec3(3, 12, 5)) - Vec3(3, 10, 5)).norm() < 1e-12);
    CHECK((plane.meets(Vec3(0, 0, 0), Vec3(1, 2, 0)) - Vec3(5, 10, 0)).norm() < 1e-12);
    CHECK((plane.meets(Vec3(0, 20, 0), Vec3(1, 2, 0)) - Vec3(-5, 10, 0)).norm() < 1e-12);  // behind the origin
    CHECK_FALSE(plane.meets(Vec3(0, 0, 0), Vec3(1, 0, 0)).allFinite());

    SECTION("a line on the screen means the plane through the eye and both of its ends") {
        const Vec3 eye(5, 1600, 800), a(-40, 1590, 0), b(60, 1585, 10);
        const auto cut = plane_of_line(eye, a - eye, eye, b - eye);
        REQUIRE(cut);
        for (const Vec3& p : {eye, a, b}) CHECK(std::abs(cut->side(p)) < 1e-9);
        CHECK(cut->normal.y() > 0);
        CHECK_FALSE(plane_of_line(eye, a - eye, eye, 2 * (a - eye)));  // no line
    }
    SECTION("and of parallel rays the plane along them") {
        const auto cut = plane_of_line(Vec3(0, 0, 500), -Vec3::UnitZ(), Vec3(10, 0, 500), -Vec3::UnitZ());
        REQUIRE(cut);
        CHECK((cut->normal - Vec3::UnitY()).norm() < 1e-9);
    }
}

TEST_CASE("Sight: a place is seen unless something stands before it, in any frame") {
    const Mesh mesh = two_sheets(20, true);  // at z = 0 and z = 20
    const auto triangles = triangulate(mesh).triangles;
    const SurfaceQuery query(mesh.positions, triangles);
    Similarity to_view;
    to_view.scale = 3, to_view.translation = Vec3(100, 0, 7);
    to_view.rotation = Eigen::AngleAxisd(0.5, Vec3::UnitX()).toRotationMatrix();
    const Vec3 above = to_view(Vec3(1, 1, 200));
    CHECK(seen_from(query, to_view, above, to_view(Vec3(1, 1, 20)), 2.5));
    CHECK_FALSE(seen_from(query, to_view, above, to_view(Vec3(1, 1, 0)), 2.5));
    CHECK(
        seen_from(query, to_view, above, to_view(Vec3(1, 1, 0)), 70));  // 60 mm behind the other sheet, in that frame
    CHECK(seen_from(query, to_view, to_view(Vec3(0, 0, -90)), to_view(Vec3(1, 1, 0)), 2.5));
}

TEST_CASE("Section: a mesh that lies elsewhere is cut where it lies") {
    const Mesh mesh = sheet(6, 60, [](double, double) { return 0.0; });
    const auto triangles = triangulate(mesh).triangles;
    Similarity to_plane;
    to_plane.scale = 10, to_plane.translation = Vec3(0, 1500, 0);
    const Plane plane = Plane::through(Vec3(0, 1600, 0), Vec3::UnitY());
    const auto lines = section(mesh.positions, triangles, plane, to_plane);
    REQUIRE(lines.size() == 1);
    for (const Vec3& p : lines[0]) CHECK(std::abs(p.y() - 1600) < 1e-9);
    CHECK(std::abs((lines[0].front() - lines[0].back()).norm() - 600) < 1e-6);
    CHECK(section(mesh.positions, triangles, Plane::through(Vec3(0, 2000, 0), Vec3::UnitY()), to_plane).empty());
}

TEST_CASE("Kit: its neck, its head and its skin's regions, as panels show them") {
    const BaseKit& kit = *demo_kit();
    const SurfaceKinds kinds = surface_kinds(kit);
    CHECK(std::accumulate(kinds.eye.begin(), kinds.eye.end(), 0.0) ==
          static_cast<double>(kit.part("eye_l")->vertices.size() + kit.part("eye_r")->vertices.size()));
    CHECK(kinds.eye[kit.part("eye_l")->vertices.front()] == 1);
    // lashes: strands leave the lid, so that their tips lie farther from the eyeball than their roots
    for (const char side : {'l', 'r'}) {
        const Vec3 eye = kit.eyes[kit.eyes[0].part.ends_with(side) ? 0 : 1].centre;
        double roots = 0, tips = 0, n_roots = 0, n_tips = 0;
        for (const Index v : kit.part(std::string("lash_") + side)->vertices) {
            CHECK(kinds.lash[v] == 1);
            CHECK((kinds.along[v] >= 0 && kinds.along[v] <= 1));
            const double away = (kit.mesh.positions[v] - eye).norm();
            if (kinds.out[v] < 0.05f) roots += away, ++n_roots;
            if (kinds.out[v] > 0.95f) tips += away, ++n_tips;
        }
        REQUIRE((n_roots > 3 && n_tips > 3));
        CHECK(tips / n_tips > roots / n_roots + 1);
    }
    CHECK(std::accumulate(kinds.lash.begin(), kinds.lash.end(), 0.0) ==
          static_cast<double>(kit.part("lash_l")->vertices.size() + kit.part("lash_r")->vertices.size()));
    const Box head = head_box(kit);
    CHECK(head.high.y() == Approx(bounding_box(kit.mesh.positions).high.y()));
    CHECK(head.size().y() < 450);
    const Mesh without = without_body(kit, 55);
    CHECK(without.face_count() < kit.mesh.face_count());
    CHECK(without.positions.size() == kit.mesh.positions.size());
    const auto regions = skin_regions(kit);
    const auto place = [&](const char* name) { return std::find(regions.begin(), regions.end(), name); };
    REQUIRE(place("ear_l") != regions.end());
    CHECK(place("head_skin") == regions.end());
    CHECK(place("ear_l") < place("hand_l"));  // the head's first
}
