#include "demo/standins/graded_mesh.h"

#include <CGAL/Polygon_mesh_processing/remesh.h>
#include <CGAL/boost/graph/helpers.h>

#include <map>
#include <set>
#include <vector>

#include "core/tidy/surface_mesh.h"

namespace veld {
namespace {

namespace pmp = CGAL::Polygon_mesh_processing;
using CgalFace = CgalMesh::Face_index;
using CgalEdge = CgalMesh::Edge_index;

constexpr unsigned kRounds = 4;

Mesh from_cgal_mesh(const CgalMesh& mesh) {
    Mesh out;
    std::map<CgalMesh::Vertex_index, Index> number;
    for (const auto v : mesh.vertices()) {
        number[v] = out.vertex_count();
        out.positions.push_back(from_cgal(mesh.point(v)));
    }
    for (const CgalFace f : mesh.faces()) {
        for (const auto v : CGAL::vertices_around_face(mesh.halfedge(f), mesh)) out.corner_vertex.push_back(number[v]);
        out.face_start.push_back(static_cast<Index>(out.corner_vertex.size()));
    }
    return out;
}

}  // namespace

Mesh graded_mesh(const Mesh& mesh, const std::function<double(const Vec3&)>& edge_at) {
    CgalMesh all;
    std::vector<CgalMesh::Vertex_index> vertex;
    for (const Vec3& p : mesh.positions) vertex.push_back(all.add_vertex(to_cgal(p)));
    const Triangulation fans = triangulate(mesh);
    // what is meshed anew has 0; numbers of faces do not last from one stretch to the next
    auto wanted = all.add_property_map<CgalFace, double>("f:edge", 0).first;
    std::set<double> edges;
    for (std::size_t t = 0; t < fans.triangles.size(); ++t) {
        const Index f = fans.triangle_face[t];
        Vec3 middle = Vec3::Zero();
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c)
            middle += mesh.positions[mesh.corner_vertex[c]] / mesh.face_size(f);
        const Triangle& on = fans.triangles[t];
        const CgalFace face = all.add_face(vertex[on[0]], vertex[on[1]], vertex[on[2]]);
        if (face != CgalMesh::null_face()) edges.insert(wanted[face] = edge_at(middle));
    }
    auto border = all.add_property_map<CgalEdge, bool>("e:border", false).first;
    for (const CgalEdge e : all.edges()) border[e] = all.is_border(e);
    for (const double edge : edges) {
        std::vector<CgalFace> faces;
        for (const CgalFace f : all.faces()) {
            if (wanted[f] == edge) faces.push_back(f);
        }
        pmp::isotropic_remeshing(
            faces, edge, all,
            CGAL::parameters::number_of_iterations(kRounds).edge_is_constrained_map(border).protect_constraints(
                false));
        for (const CgalFace f : all.faces()) {
            if (wanted[f] == edge) wanted[f] = 0;
        }
    }
    all.collect_garbage();
    return from_cgal_mesh(all);
}

}  // namespace veld
