// Each clean-up tool beside the library routine that does the same (CGAL 5.5), on the same made-up scan
// in the same run; millions of triangles a second, and how long ours takes of the library's time.
// Converting to the library's mesh is not counted against it.
// Usage: build/release/bin/tidy_speed KIT_FOLDER
#include <CGAL/Polygon_mesh_processing/border.h>
#include <CGAL/Polygon_mesh_processing/clip.h>
#include <CGAL/Polygon_mesh_processing/compute_normal.h>
#include <CGAL/Polygon_mesh_processing/connected_components.h>
#include <CGAL/Polygon_mesh_processing/orient_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/polygon_soup_to_polygon_mesh.h>
#include <CGAL/Polygon_mesh_processing/remesh.h>
#include <CGAL/Polygon_mesh_processing/repair_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/smooth_shape.h>
#include <CGAL/Polygon_mesh_processing/triangulate_hole.h>
#include <CGAL/Surface_mesh_simplification/Policies/Edge_collapse/Count_stop_predicate.h>
#include <CGAL/Surface_mesh_simplification/edge_collapse.h>

#include <chrono>
#include <cstdio>

#include "core/io/obj.h"
#include "core/mesh/edges.h"
#include "core/mesh/topology.h"
#include "core/tidy/cut.h"
#include "core/tidy/fill_holes.h"
#include "core/tidy/repair.h"
#include "core/tidy/resample.h"
#include "core/tidy/selection.h"
#include "core/tidy/smooth.h"
#include "core/tidy/surface_mesh.h"
#include "core/tidy/weld.h"
#include "demo/standins/made_up_person.h"

using namespace veld;
namespace pmp = CGAL::Polygon_mesh_processing;
using Point = CgalKernel::Point_3;

namespace {

template <class Work>
double seconds(Work work, int times = 3) {
    double best = 1e9;
    for (int i = 0; i < times; ++i) {
        const auto start = std::chrono::steady_clock::now();
        work();
        best = std::min(best, std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count());
    }
    return best;
}

void row(const char* tool, std::size_t triangles, double ours, double library, const char* routine) {
    const double m = static_cast<double>(triangles) * 1e-6;
    if (library > 0)
        std::printf("| %-22s | %8.2f | %8.2f | %5.2f x | %s |\n", tool, m / ours, m / library, ours / library,
                    routine);
    else
        std::printf("| %-22s | %8.2f |        - |       - | %s |\n", tool, m / ours, routine);
    std::fflush(stdout);
}

CgalMesh to_cgal_mesh(const Mesh& mesh) {
    std::vector<Point> points;
    std::vector<std::vector<std::size_t>> faces;
    for (const Vec3& p : mesh.positions) points.push_back(to_cgal(p));
    for (Index f = 0; f < mesh.face_count(); ++f)
        faces.push_back({mesh.corner_vertex[3 * f], mesh.corner_vertex[3 * f + 1], mesh.corner_vertex[3 * f + 2]});
    pmp::orient_polygon_soup(points, faces);
    CgalMesh out;
    pmp::polygon_soup_to_polygon_mesh(points, faces, out);
    return out;
}

// Every corner a vertex of its own, as STL has it.
Mesh soup_of(const Mesh& mesh) {
    Mesh out;
    out.face_start = mesh.face_start;
    for (Index v : mesh.corner_vertex)
        out.corner_vertex.push_back(out.vertex_count()), out.positions.push_back(mesh.positions[v]);
    return out;
}

Mesh scan_of(const BaseKit& kit, int density) {
    SubjectOptions options;
    options.subdivisions = density, options.seed = 5;
    Mesh mesh = make_subject(kit, options).scan;
    for (Vec3& p : mesh.positions) p *= 10;  // about millimetres
    const Mesh clean = split_non_manifold(remove_broken_faces(mesh).mesh).mesh;
    return keep_faces(clean, FaceMask(clean.face_count(), 1)).mesh;
}

void heavy_tools(const Mesh& mesh) {
    const std::size_t n = mesh.face_count();
    const std::string text = obj_text(mesh);
    const double read = seconds([&] { (void)parse_obj(text, "scan.obj"); });
    const Mesh soup = soup_of(mesh);
    const CgalMesh surface = to_cgal_mesh(mesh);
    std::vector<Point> soup_points;
    std::vector<std::vector<std::size_t>> soup_faces;
    for (const Vec3& p : soup.positions) soup_points.push_back(to_cgal(p));
    for (std::size_t f = 0; f < n; ++f) soup_faces.push_back({3 * f, 3 * f + 1, 3 * f + 2});
    const double weld_ours = seconds([&] { (void)weld(soup, 0.01); });
    row("weld (0.01 mm)", n, weld_ours,
        seconds(
            [&] {
                auto p = soup_points;
                auto f = soup_faces;
                pmp::merge_duplicate_points_in_polygon_soup(p, f);
            },
            1),
        "merge_duplicate_points (same places only)");
    const double pieces = seconds([&] { (void)face_components(mesh, same_place(mesh.positions), nullptr); });
    row("components", n, pieces, seconds([&] {
            CgalMesh copy = surface;
            auto map = copy.add_property_map<CgalMesh::Face_index, std::size_t>("f:c").first;
            pmp::connected_components(copy, map);
        }),
        "connected_components");
    SelectStep step;
    step.kind = SelectKind::Polygon;
    step.view = {0.003, 0, 0, 0, 0, 0.003, 0, 0, 0, 0, -0.001, 0, 0, 0, 0, 1};
    step.outline = {{-0.2, -0.2}, {0.2, -0.2}, {0.2, 0.2}, {-0.2, 0.2}};
    const double through = seconds([&] { (void)apply_select_step(mesh, {}, {}, step); });
    row("select through", n, through, 0, "(none)");
    step.front_only = true;
    const double front = seconds([&] { (void)apply_select_step(mesh, {}, {}, step); });
    row("select front only", n, front, 0, "(none)");
    std::printf(
        "\nReading these %zu triangles as OBJ takes %.0f ms; of that weld %.0f %%, components %.0f %%, selection %.0f "
        "and %.0f %%.\n\n",
        n, 1000 * read, 100 * seconds([&] { (void)weld(mesh, 0.01); }) / read, 100 * pieces / read,
        100 * through / read, 100 * front / read);
    row("turn outward", n, seconds([&] { (void)turn_outward(mesh); }),
        seconds(
            [&] {
                auto p = soup_points;
                std::vector<std::vector<std::size_t>> f;
                for (Index i = 0; i < mesh.face_count(); ++i)
                    f.push_back(
                        {mesh.corner_vertex[3 * i], mesh.corner_vertex[3 * i + 1], mesh.corner_vertex[3 * i + 2]});
                p.resize(mesh.positions.size());
                for (std::size_t v = 0; v < p.size(); ++v) p[v] = to_cgal(mesh.positions[v]);
                pmp::orient_polygon_soup(p, f);
            },
            1),
        "orient_polygon_soup");
    row("broken faces", n, seconds([&] { (void)remove_broken_faces(mesh); }),
        seconds(
            [&] {
                auto p = soup_points;
                auto f = soup_faces;
                pmp::repair_polygon_soup(p, f);
            },
            1),
        "repair_polygon_soup");
    const Plane plane = Plane::through(bounding_box(mesh.positions).centre(), Vec3(0.3, 1, 0.2));
    row("cut by a plane", n, seconds([&] { (void)cut_by_plane(mesh, plane); }),
        seconds(
            [&] {
                CgalMesh copy = surface;
                pmp::clip(
                    copy,
                    CgalKernel::Plane_3(to_cgal(plane.offset * plane.normal), CgalKernel::Vector_3(-0.3, -1, -0.2)),
                    pmp::parameters::throw_on_self_intersection(false).allow_self_intersections(true));
            },
            1),
        "clip");
    const std::vector<Index> place = same_place(mesh.positions);
    const EdgeLinks links = link_edges(mesh, place);
    row("open borders", n, seconds([&] { (void)border_loops(mesh, links, place); }), seconds([&] {
            std::vector<CgalMesh::Halfedge_index> cycles;
            pmp::extract_boundary_cycles(surface, std::back_inserter(cycles));
        }),
        "extract_boundary_cycles (both on a linked mesh)");
    row("normals", n, seconds([&] { (void)recompute_normals(mesh); }),
        seconds(
            [&] {
                CgalMesh copy = surface;
                auto map = copy.add_property_map<CgalMesh::Vertex_index, CgalKernel::Vector_3>("v:n").first;
                pmp::compute_vertex_normals(copy, map);
            },
            1),
        "compute_vertex_normals");
    row("spikes", n, seconds([&] { (void)remove_spikes(mesh, 8, {}); }), 0, "(none)");
    row("reduce to a tenth", n, seconds([&] { (void)reduce_triangles(mesh, n / 10); }, 1),
        seconds(
            [&] {
                CgalMesh copy = surface;
                CGAL::Surface_mesh_simplification::edge_collapse(
                    copy,
                    CGAL::Surface_mesh_simplification::Count_stop_predicate<CgalMesh>(copy.number_of_edges() / 10));
            },
            1),
        "Surface_mesh_simplification::edge_collapse");
}

void light_tools(const Mesh& mesh) {
    const std::size_t n = mesh.face_count();
    const CgalMesh surface = to_cgal_mesh(mesh);
    const std::vector<double> all(mesh.positions.size(), 1.0);
    row("smooth, 10 rounds", n, seconds([&] {
            (void)smooth_keeping_volume(mesh, all, {10, 1, true});
        }),
        seconds(
            [&] {
                CgalMesh copy = surface;
                pmp::smooth_shape(copy, 1e-2, pmp::parameters::number_of_iterations(1));
            },
            1),
        "smooth_shape, 1 step");
    FillOptions fill;
    fill.largest = 60;
    row("fill holes, smooth", n, seconds([&] { (void)fill_holes(mesh, fill); }, 1),
        seconds(
            [&] {
                CgalMesh copy = surface;
                std::vector<CgalMesh::Halfedge_index> cycles;
                pmp::extract_boundary_cycles(copy, std::back_inserter(cycles));
                for (auto h : cycles) {
                    CGAL::Bbox_3 box;
                    for (auto v : copy.vertices_around_face(h)) box += copy.point(v).bbox();
                    if (std::hypot(box.xmax() - box.xmin(), box.ymax() - box.ymin(), box.zmax() - box.zmin()) > 60)
                        continue;
                    std::vector<CgalMesh::Face_index> faces;
                    std::vector<CgalMesh::Vertex_index> vertices;
                    pmp::triangulate_refine_and_fair_hole(copy, h, std::back_inserter(faces),
                                                          std::back_inserter(vertices),
                                                          pmp::parameters::fairing_continuity(2));
                }
            },
            1),
        "triangulate_refine_and_fair_hole (same routine)");
    row("remesh, 2 mm", n, seconds([&] { (void)remesh_evenly(mesh, 2); }, 1),
        seconds(
            [&] {
                CgalMesh copy = surface;
                pmp::isotropic_remeshing(
                    copy.faces(), 2.0, copy,
                    pmp::parameters::number_of_iterations(5).number_of_relaxation_steps(2).protect_constraints(false));
            },
            1),
        "isotropic_remeshing, 5 rounds (no UVs)");
    std::vector<double> patch(mesh.positions.size(), 0);
    const Vec3 at = mesh.positions[mesh.positions.size() / 2];
    std::size_t free = 0;
    for (std::size_t v = 0; v < patch.size(); ++v) patch[v] = (mesh.positions[v] - at).norm()<30, free += patch[v]> 0;
    std::vector<CgalMesh::Vertex_index> selected;
    for (auto v : surface.vertices()) {
        if ((from_cgal(surface.point(v)) - at).norm() < 30) selected.push_back(v);
    }
    row("flatten 30 mm", 2 * free, seconds([&] { (void)flatten_bumps(mesh, patch, 1); }),
        seconds(
            [&] {
                CgalMesh copy = surface;
                pmp::fair(copy, selected, pmp::parameters::fairing_continuity(1));
            },
            1),
        "fair, continuity 1");
}

}  // namespace

int main(int argc, char** argv) {
    const auto kit = read_base_kit(argc > 1 ? argv[1] : "demo/kit");
    if (!kit) return std::fprintf(stderr, "%s\n", kit.error().message.c_str()), 1;
    std::printf("| tool | ours, M triangles/s | library | ours takes | library routine |\n|---|---|---|---|---|\n");
    heavy_tools(scan_of(*kit, 10));
    light_tools(scan_of(*kit, 4));
}
