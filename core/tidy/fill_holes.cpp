#include "core/tidy/fill_holes.h"

#include <CGAL/Polygon_mesh_processing/triangulate_hole.h>

#include <algorithm>
#include <unordered_map>

#include "core/mesh/edges.h"
#include "core/mesh/topology.h"
#include "core/tidy/surface_mesh.h"

namespace veld {
namespace {

namespace pmp = CGAL::Polygon_mesh_processing;
constexpr int kRings = 4;  // of faces around a hole: what curvature needs to know
constexpr std::size_t kLongestLoop = 6000;

// The faces around one hole as a CGAL mesh.
struct Surroundings {
    CgalMesh mesh;
    std::vector<Index> vertex;  // mesh vertex (its place) of each CGAL vertex
    CgalMesh::Halfedge_index border;
    bool usable = false;
};

class Filler {
 public:
    Filler(const Mesh& mesh, const FillOptions& options)
        : in_(mesh), options_(options), place_(same_place(mesh.positions)), links_(link_edges(mesh, place_)) {
        faces_at_.assign(mesh.positions.size() + 1, 0);
        for (Index v : mesh.corner_vertex) ++faces_at_[place_[v] + 1];
        for (std::size_t v = 1; v < faces_at_.size(); ++v) faces_at_[v] += faces_at_[v - 1];
        corners_at_.resize(mesh.corner_vertex.size());
        std::vector<Index> fill(faces_at_.begin(), faces_at_.end() - 1);
        for (Index c = 0; c < mesh.corner_vertex.size(); ++c) corners_at_[fill[place_[mesh.corner_vertex[c]]]++] = c;
    }

    Changed run(const std::vector<Hole>& holes, const Progress& progress) {
        Changed out;
        out.mesh = in_;
        for (Index v = 0; v < in_.positions.size(); ++v) out.origin.push_back(v);
        std::size_t left_open = 0, too_large = 0, done = 0;
        for (const Hole& hole : holes) {
            if (progress.is_cancelled()) return {};
            progress.say(static_cast<double>(done++) / static_cast<double>(holes.size()), "Filling holes");
            if (!options_.near.empty() && std::none_of(hole.corners.begin(), hole.corners.end(),
                                                       [&](Index c) { return options_.near[links_.corner_face[c]]; }))
                continue;
            if (hole.diagonal > options_.largest) {
                ++too_large;
                continue;
            }
            if (fill(hole, out))
                ++out.count;
            else
                ++left_open;
        }
        if (!out.mesh.corner_normal.empty()) out.mesh.normals.clear(), out.mesh.corner_normal.clear();
        out.said = out.count == 0 ? "No hole was filled."
                                  : counted(out.count, "hole was", "holes were") + " filled with " +
                                        counted(out.mesh.face_count() - in_.face_count(), "face") + ".";
        if (too_large) out.said += " " + counted(too_large, "larger opening") + " stayed open.";
        if (left_open)
            out.said += " " + counted(left_open, "hole") +
                        " could not be filled: the border touches itself or edges with many faces. Run Repair first.";
        return out;
    }

 private:
    std::vector<Index> faces_around(const Hole& hole) const {
        std::vector<Index> faces, rim;
        std::unordered_map<Index, char> seen_face, seen_vertex;
        for (Index c : hole.corners) rim.push_back(place_[in_.corner_vertex[c]]);
        for (Index v : rim) seen_vertex[v] = 1;
        for (int ring = 0; ring < kRings; ++ring) {
            std::vector<Index> next;
            for (Index v : rim) {
                for (Index i = faces_at_[v]; i < faces_at_[v + 1]; ++i) {
                    const Index f = links_.corner_face[corners_at_[i]];
                    if (!seen_face.try_emplace(f, 1).second) continue;
                    faces.push_back(f);
                    for (Index c = in_.face_start[f]; c < in_.face_start[f + 1]; ++c) {
                        const Index w = place_[in_.corner_vertex[c]];
                        if (seen_vertex.try_emplace(w, 1).second) next.push_back(w);
                    }
                }
            }
            rim.swap(next);
        }
        std::sort(faces.begin(), faces.end());
        return faces;
    }

    Surroundings surroundings(const Hole& hole) const {
        Surroundings out;
        std::unordered_map<Index, CgalMesh::Vertex_index> vertex;
        const auto at = [&](Index corner) {
            const Index v = place_[in_.corner_vertex[corner]];
            auto [known, fresh] = vertex.try_emplace(v);
            if (fresh) known->second = out.mesh.add_vertex(to_cgal(in_.positions[v])), out.vertex.push_back(v);
            return known->second;
        };
        for (Index f : faces_around(hole)) {
            const Index first = in_.face_start[f];
            for (Index c = first + 1; c + 1 < in_.face_start[f + 1]; ++c) {
                const auto a = at(first), b = at(c), d = at(c + 1);
                if (a == b || b == d || a == d) continue;
                if (out.mesh.add_face(a, b, d) == CgalMesh::null_face()) return out;
            }
        }
        // the hole's own border: every edge of it must be open in the copy too, each vertex once
        const auto place_at = [&](std::size_t i) {
            return place_[in_.corner_vertex[hole.corners[i % hole.corners.size()]]];
        };
        std::unordered_map<Index, char> once;
        for (std::size_t i = 0; i < hole.corners.size(); ++i) {
            if (!once.try_emplace(place_at(i), 1).second) return out;
            const auto h = out.mesh.halfedge(vertex.at(place_at(i + 1)), vertex.at(place_at(i)));
            if (h == CgalMesh::null_halfedge() || !out.mesh.is_border(h)) return out;
            out.border = h;
        }
        std::size_t around = 0;
        for (auto h = out.mesh.next(out.border); h != out.border && around <= hole.corners.size();
             h = out.mesh.next(h))
            ++around;
        out.usable = around + 1 == hole.corners.size();
        return out;
    }

    bool fill(const Hole& hole, Changed& out) {
        if (hole.corners.size() < 3 || hole.corners.size() > kLongestLoop) return false;
        try {
            Surroundings s = surroundings(hole);
            if (!s.usable) return false;
            std::vector<CgalMesh::Face_index> faces;
            std::vector<CgalMesh::Vertex_index> vertices;
            if (options_.form == FillForm::Flat || hole.corners.size() == 3) {
                pmp::triangulate_hole(s.mesh, s.border, std::back_inserter(faces));
            } else {
                const bool fair = std::get<0>(pmp::triangulate_refine_and_fair_hole(
                    s.mesh, s.border, std::back_inserter(faces), std::back_inserter(vertices),
                    pmp::parameters::fairing_continuity(2)));
                (void)fair;  // unfaired is still refined and closed
            }
            if (faces.empty()) return false;
            append(hole, s, faces, out);
            return true;
        } catch (const std::exception&) {
            return false;
        }
    }

    struct RimCorner {
        Vec3 position;
        Index vertex, uv;
    };

    void append(const Hole& hole, const Surroundings& s, const std::vector<CgalMesh::Face_index>& faces,
                Changed& out) {
        Mesh& m = out.mesh;
        std::unordered_map<Index, RimCorner> rim;  // by place
        bool one_chart = !in_.corner_uv.empty();
        for (Index c : hole.corners) {
            const Index v = in_.corner_vertex[c];
            const Index uv = in_.corner_uv.empty() ? kNone : in_.corner_uv[c];
            one_chart &= uv != kNone;
            rim[place_[v]] = {in_.positions[v], v, uv};
        }
        std::unordered_map<std::uint32_t, std::pair<Index, Index>> made;  // CGAL vertex -> vertex and uv of the mesh
        const auto corner = [&](CgalMesh::Vertex_index v) {
            auto [known, fresh] = made.try_emplace(static_cast<std::uint32_t>(v));
            if (!fresh) return known->second;
            const std::size_t i = static_cast<std::size_t>(v);
            if (i < s.vertex.size() && rim.contains(s.vertex[i])) {
                const RimCorner& r = rim.at(s.vertex[i]);
                return known->second = {r.vertex, r.uv};
            }
            known->second = blended(from_cgal(s.mesh.point(v)), rim, one_chart, out);
            return known->second;
        };
        std::vector<Triangle> triangles, uvs;
        for (auto f : faces) {
            Triangle t{}, u{};
            std::size_t k = 0;
            for (auto v : s.mesh.vertices_around_face(s.mesh.halfedge(f))) {
                const auto [vertex, uv] = corner(v);
                t[k] = vertex, u[k] = uv;
                ++k;
            }
            triangles.push_back(t);
            uvs.push_back(u);
        }
        append_triangles(m, triangles, in_.corner_uv.empty() ? std::vector<Triangle>() : uvs,
                         links_.corner_face[hole.corners.front()]);
    }

    // A new vertex takes UV and colour from the rim: all of it by distance within one chart, else the nearest.
    std::pair<Index, Index> blended(const Vec3& p, const std::unordered_map<Index, RimCorner>& rim, bool one_chart,
                                    Changed& out) const {
        Mesh& m = out.mesh;
        const Index vertex = static_cast<Index>(m.positions.size());
        m.positions.push_back(p);
        out.origin.push_back(kNone);
        double sum = 0, nearest = std::numeric_limits<double>::infinity();
        Vec2 uv = Vec2::Zero(), low = Vec2::Constant(1e300), high = -low;
        Vec3 colour = Vec3::Zero();
        Index nearest_uv = kNone;
        for (const auto& [place, r] : rim) {
            const double d = (r.position - p).squaredNorm(), w = 1 / std::max(d * d, 1e-24);
            sum += w;
            if (r.uv != kNone) {
                const Vec2& t = m.uvs[r.uv];
                uv += w * t, low = low.cwiseMin(t), high = high.cwiseMax(t);
                if (d < nearest || (d == nearest && r.uv < nearest_uv)) nearest = d, nearest_uv = r.uv;
            }
            if (!m.colours.empty())
                colour += w * Vec3(in_.colours[r.vertex].r, in_.colours[r.vertex].g, in_.colours[r.vertex].b);
        }
        if (!m.colours.empty()) {
            colour /= sum;
            m.colours.push_back({static_cast<std::uint8_t>(colour.x()), static_cast<std::uint8_t>(colour.y()),
                                 static_cast<std::uint8_t>(colour.z()), 255});
        }
        if (!one_chart || (high - low).maxCoeff() > 0.1) return {vertex, nearest_uv};
        m.uvs.push_back(uv / sum);
        return {vertex, static_cast<Index>(m.uvs.size() - 1)};
    }

    const Mesh& in_;
    const FillOptions& options_;
    std::vector<Index> place_;
    EdgeLinks links_;
    std::vector<Index> faces_at_, corners_at_;
};

}  // namespace

std::vector<Hole> find_holes(const Mesh& mesh) {
    const std::vector<Index> place = same_place(mesh.positions);
    const EdgeLinks links = link_edges(mesh, place);
    std::vector<Hole> out;
    for (std::vector<Index>& loop : border_loops(mesh, links, place)) {
        Hole hole;
        Box box;
        for (Index c : loop) {
            const Vec3& a = mesh.positions[mesh.corner_vertex[c]];
            box.add(a);
            hole.length += (mesh.positions[mesh.corner_vertex[next_corner(mesh, links, c)]] - a).norm();
        }
        hole.diagonal = box.size().norm();
        hole.corners = std::move(loop);
        out.push_back(std::move(hole));
    }
    std::stable_sort(out.begin(), out.end(), [](const Hole& a, const Hole& b) { return a.length > b.length; });
    return out;
}

Changed fill_holes(const Mesh& mesh, const FillOptions& options, const Progress& progress) {
    progress.say(0, "Looking for holes");
    const std::vector<Hole> holes = find_holes(mesh);
    return Filler(mesh, options).run(holes, progress);
}

}  // namespace veld
