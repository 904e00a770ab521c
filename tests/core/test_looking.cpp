// What a fit is looked at with: sections, subdivision, numbers per vertex, painted weights.
#include <catch2/catch.hpp>

#include <cmath>
#include <set>

#include "core/fit/compare.h"
#include "core/fit/vertex_figures.h"
#include "core/mesh/subdivide.h"
#include "core/project/fits.h"
#include "core/spatial/section.h"
#include "core/spatial/small_picture.h"
#include "core/touchup/paint.h"
#include "tests/support/demo_kit.h"
#include "tests/support/small_meshes.h"

using namespace veld;

namespace {

// A ball of quads and triangles around the origin.
Mesh ball(double radius, int rows) {
    Mesh out;
    const int columns = 2 * rows;
    out.positions.emplace_back(0, radius, 0);
    for (int r = 1; r < rows; ++r) {
        for (int c = 0; c < columns; ++c) {
            const double t = M_PI * r / rows, p = 2 * M_PI * c / columns;
            out.positions.emplace_back(radius * std::sin(t) * std::sin(p), radius * std::cos(t),
                                       radius * std::sin(t) * std::cos(p));
        }
    }
    out.positions.emplace_back(0, -radius, 0);
    const auto at = [&](int r, int c) { return static_cast<Index>(1 + (r - 1) * columns + (c % columns)); };
    const auto face = [&](std::initializer_list<Index> corners) {
        out.corner_vertex.insert(out.corner_vertex.end(), corners);
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    };
    for (int c = 0; c < columns; ++c) face({0, at(1, c), at(1, c + 1)});
    for (int r = 1; r + 1 < rows; ++r) {
        for (int c = 0; c < columns; ++c) face({at(r, c), at(r + 1, c), at(r + 1, c + 1), at(r, c + 1)});
    }
    for (int c = 0; c < columns; ++c)
        face({static_cast<Index>(out.positions.size() - 1), at(rows - 1, c + 1), at(rows - 1, c)});
    return out;
}

}  // namespace

TEST_CASE("Section: a ball is cut in one closed ring of the right length, beside it in nothing") {
    const Mesh mesh = ball(10, 40);
    const auto triangles = triangulate(mesh).triangles;
    for (const double height : {0.0, 3.0, -6.0}) {
        for (const Vec3& normal : {Vec3(0, 1, 0), Vec3(1, 0, 0), Vec3(1, 2, -1).normalized()}) {
            const auto lines = section(mesh.positions, triangles, {normal, height});
            REQUIRE(lines.size() == 1);
            CHECK((lines[0].front() - lines[0].back()).norm() < 1e-12);
            double length = 0;
            for (std::size_t i = 1; i < lines[0].size(); ++i) length += (lines[0][i] - lines[0][i - 1]).norm();
            CHECK(length == Approx(2 * M_PI * std::sqrt(100 - height * height)).epsilon(0.01));
            for (const Vec3& p : lines[0]) REQUIRE(std::abs(normal.dot(p) - height) < 1e-9);
        }
    }
    CHECK(section(mesh.positions, triangles, {Vec3::UnitY(), 10.5}).empty());
    // exactly through vertices: still one ring, nothing twice
    CHECK(section(mesh.positions, triangles, {Vec3::UnitY(), mesh.positions[1].y()}).size() == 1);
    CHECK(section(mesh.positions, {}, {Vec3::UnitY(), 0}).empty());
}

TEST_CASE("Section: an open surface gives an open line") {
    const Mesh mesh = ball(10, 20);
    auto triangles = triangulate(mesh).triangles;
    std::erase_if(triangles, [&](const Triangle& t) {
        return mesh.positions[t[0]].z() < -3 || mesh.positions[t[1]].z() < -3 || mesh.positions[t[2]].z() < -3;
    });
    const auto lines = section(mesh.positions, triangles, {Vec3::UnitY(), 0.5});
    REQUIRE(lines.size() == 1);
    CHECK((lines[0].front() - lines[0].back()).norm() > 5);
}

TEST_CASE("Subdivision: a cube's known corner, counts, constants and planes kept") {
    const auto once = Subdivided::make(cube(), 1);
    REQUIRE(once);
    const Mesh& mesh = (*once)->mesh();
    CHECK(mesh.positions.size() == 8 + 6 + 12);
    CHECK(mesh.face_count() == 24);
    // a corner of valence 3: (F + 2 R) / 3 with face points at the middles and edge middles [Catmull & Clark 1978]
    const Vec3 face_mean = (Vec3(0.5, 0.5, 0) + Vec3(0.5, 0, 0.5) + Vec3(0, 0.5, 0.5)) / 3,
               edge_mean = (Vec3(0.5, 0, 0) + Vec3(0, 0.5, 0) + Vec3(0, 0, 0.5)) / 3;
    CHECK((mesh.positions[0] - (face_mean + 2 * edge_mean) / 3).norm() < 1e-12);
    const auto twice = Subdivided::make(cube(), 2);
    REQUIRE(twice);
    CHECK((*twice)->mesh().face_count() == 96);
    CHECK(check_mesh((*twice)->mesh(), "twice"));
    for (const float v : (*twice)->values(std::vector<float>(8, 3.5f))) REQUIRE(v == Approx(3.5f));
    const auto most = Subdivided::make(cube(), kMostLevels);
    REQUIRE(most);
    CHECK((*most)->mesh().face_count() == 6u << (2 * kMostLevels));
    CHECK_FALSE(Subdivided::make(cube(), kMostLevels + 1));
    CHECK_FALSE(Subdivided::make(cube(), 0));
    CHECK_FALSE(Subdivided::make(Mesh(), 1));
}

TEST_CASE("Subdivision: the kit's own mesh, with its UVs, groups and materials, and what is no number stays none") {
    const BaseKit& kit = *demo_kit();
    const auto once = Subdivided::make(kit.mesh, 1);
    REQUIRE(once);
    const Mesh& mesh = (*once)->mesh();
    CHECK(mesh.face_count() == kit.mesh.corner_vertex.size());  // a quad for every corner
    CHECK(mesh.corner_uv.size() == mesh.corner_vertex.size());
    CHECK(mesh.face_group.size() == mesh.face_count());
    CHECK(check_mesh(mesh, "subdivided"));
    Points moved = kit.mesh.positions;
    for (Vec3& p : moved) p += Vec3(10, -4, 2.5);
    const Points fine = (*once)->positions(moved);
    for (std::size_t v = 0; v < fine.size(); v += 97)
        REQUIRE((fine[v] - mesh.positions[v] - Vec3(10, -4, 2.5)).norm() < 1e-9);
    std::vector<float> values(kit.mesh.positions.size(), 1);
    values[kit.region("lips").front()] = std::numeric_limits<float>::quiet_NaN();
    const auto fine_values = (*once)->values(values);
    const auto none = static_cast<std::size_t>(
        std::count_if(fine_values.begin(), fine_values.end(), [](float x) { return std::isnan(x); }));
    CHECK(none > 0);
    CHECK(none < 60);
}

TEST_CASE("Vertex figures: inside and outside, stretch and angles of shapes that are known") {
    const BaseKit& kit = *demo_kit();
    // the base itself is the source; the fit stands half a millimetre outside in front of it
    SourceSurface source = prepare_source(kit.mesh, {});
    Points fit = kit.mesh.positions;
    const auto& lips = kit.region("face");
    const Points normals = vertex_normals(kit.mesh.positions, kit.triangulation.triangles);
    for (const Index v : lips) fit[v] += 0.5 * normals[v];
    const std::vector<float> everywhere(fit.size(), 0);
    const auto out = signed_distances(kit, fit, source, everywhere);
    std::vector<double> in_face;
    for (const Index v : lips) {
        if (!std::isnan(out[v])) in_face.push_back(out[v]);
    }
    std::sort(in_face.begin(), in_face.end());
    REQUIRE(in_face.size() > lips.size() / 2);
    CHECK(in_face[in_face.size() / 2] == Approx(0.5).margin(0.02));
    for (const Index v : lips) fit[v] = kit.mesh.positions[v] - 0.5 * normals[v];
    const auto in = signed_distances(kit, fit, source, everywhere);
    int inside = 0, counted = 0;
    for (const Index v : lips) counted += !std::isnan(in[v]), inside += in[v] < 0;
    CHECK(inside > 0.9 * counted);
    const std::vector<float> nowhere(fit.size(), std::numeric_limits<float>::quiet_NaN());
    for (const float d : signed_distances(kit, fit, source, nowhere)) REQUIRE(std::isnan(d));

    // a head that is one and a half times as large is neither stretched nor bent
    Points large = kit.mesh.positions;
    for (Vec3& p : large) p *= 1.5;
    for (const Index v : kit.part("skin")->vertices) {
        REQUIRE(edge_stretch(kit, large)[v] == Approx(0).margin(1e-5));
        if (v > 40) break;
    }
    const auto bent = angle_change(kit, large);
    for (const Index v : kit.region("face")) REQUIRE(bent[v] < 1e-3);
    // pulled apart sideways, edges are longer
    Points wide = kit.mesh.positions;
    for (const Index v : kit.region("lips")) wide[v].x() *= 1.4;
    const auto stretch = edge_stretch(kit, wide);
    float most = 0;
    for (const Index v : kit.region("lips")) most = std::max(most, stretch[v]);
    CHECK(most > 0.1f);
    // unmoved skin says nothing
    CHECK(std::isnan(stretch[kit.region("foot_l").front()]));
}

TEST_CASE("Vertex figures: from the source to the fit") {
    const BaseKit& kit = *demo_kit();
    Mesh source = ball(1, 8);
    const Vec3 nose = kit.landmarks.at("pronasale").at(kit.mesh.positions);
    for (Vec3& p : source.positions) p = nose + Vec3(0, 0, 6) + p;
    const auto d = source_distances(kit, kit.mesh.positions, source, {}, 30);
    for (const float x : d) CHECK((x > 3.5f && x < 7.5f));
    for (const float x : source_distances(kit, kit.mesh.positions, source, {}, 2)) REQUIRE(std::isnan(x));
}

TEST_CASE("Painting: weights rise to the brush's own, erasing takes them away, both sides alike") {
    const BaseKit& kit = *demo_kit();
    std::vector<float> weights(kit.mesh.positions.size(), 0);
    const Index v = kit.region("ear_l")[10], m = kit.mirror[v];
    REQUIRE(v != m);
    paint_weights(kit, {{v, 0.7}}, false, true, weights);
    CHECK(weights[v] == 0.7f);
    CHECK(weights[m] == 0.7f);
    paint_weights(kit, {{v, 0.4}}, false, false, weights);
    CHECK(weights[v] == 0.7f);  // never less by painting
    paint_weights(kit, {{v, 1.0}}, true, false, weights);
    CHECK(weights[v] == 0);
    CHECK(weights[m] == 0.7f);
}

TEST_CASE("Tries: added, selected, removed, what tells their settings apart") {
    Subject subject;
    CHECK(subject.fit() == nullptr);
    for (const char* name : {"a", "b", "c"}) {
        FitRecord r;
        r.name = name;
        add_fit(subject, std::move(r));
    }
    CHECK(subject.fit()->name == "c");
    subject.current_fit = 1;
    CHECK(subject.fit()->name == "b");
    remove_fit(subject, 1);
    CHECK(subject.fit()->name == "a");
    remove_fit(subject, 7);
    CHECK(subject.fits.size() == 2);
    remove_fit(subject, 0), remove_fit(subject, 0);
    CHECK(subject.fit() == nullptr);
    FitSettings a, b;
    CHECK(settings_differences(a, b).empty());
    b.smooth_end_mm = 3, b.regions["skull"].match = 0, b.own_regions["scar"] = {{1}, {1.0f}};
    const auto d = settings_differences(a, b);
    REQUIRE(d.size() == 3);
    CHECK(d[0] == "smooth_end_mm 1.4 -> 3.0");
    CHECK(d[1] == "region scar");
    CHECK(d[2] == "region skull");
}

TEST_CASE(
    "Small picture: what is nearer hides what is behind, light falls from above left, outside there is nothing") {
    // a square of side 2 in front of a smaller one that leans away from the lamp
    const Points x{{-1, -1, 1}, {1, -1, 1}, {1, 1, 1}, {-1, 1, 1}, {-3, -3, 0}, {3, -3, 0}, {3, 3, 0}, {-3, 3, 0}};
    const std::vector<Triangle> triangles{{0, 1, 2}, {0, 2, 3}, {4, 5, 6}, {4, 6, 7}};
    Box box;
    box.add(Vec3(-4, -4, 0)), box.add(Vec3(4, 4, 1));
    const SmallPicture small = small_picture(x, triangles, box, 16);
    REQUIRE(small.grey.size() == 256);
    const auto at = [](int column, int row) { return static_cast<std::size_t>(row * 16 + column); };
    CHECK(small.seen[at(0, 0)] == 0);
    CHECK(small.seen[at(8, 8)] == 255);
    CHECK(std::count(small.seen.begin(), small.seen.end(), 255) == 144);  // 6 of 8 units each way
    // a surface that faces the lamp is lighter than one that faces to the right, one that faces away is not seen
    const auto light = [&](const Vec3& normal) {
        const Vec3 u = normal.cross(Vec3::UnitX()).normalized(), w = u.cross(normal);
        const Points facing{-5 * u - 5 * w, 5 * u - 5 * w, 5 * u + 5 * w};
        const std::vector<Triangle> one{{0, 1, 2}};
        const Vec3 n = (facing[1] - facing[0]).cross(facing[2] - facing[0]);
        const SmallPicture seen =
            small_picture(facing, n.dot(normal) > 0 ? one : std::vector<Triangle>{{0, 2, 1}}, box, 16);
        return static_cast<int>(*std::max_element(seen.grey.begin(), seen.grey.end()));
    };
    CHECK(light(Vec3(-0.4, 0.5, 0.75).normalized()) == 255);
    CHECK(light(Vec3(0.7, 0, 0.7).normalized()) < 200);
    CHECK(light(Vec3(0.1, 0, -1).normalized()) == 0);
}
