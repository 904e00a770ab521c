#include "core/fit/compare.h"

#include <cmath>

#include "core/kit/kit_surface.h"
#include "core/linalg/fit_similarity.h"
#include "core/linalg/statistics.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

constexpr double kCompareReachMm = 50;
constexpr int kIcpRounds = 30;
constexpr std::size_t kIcpSample = 4000;

SurfaceDifference from_to(const Points& from, const std::vector<Index>& vertices, const Points& to,
                          const std::vector<Triangle>& triangles) {
    const SurfaceQuery query(to, triangles);
    SurfaceDifference out;
    std::vector<double> distances;
    double sum = 0;
    const double bounds[3] = {0.1, 0.5, 1};
    for (const Index v : vertices) {
        const SurfaceHit hit = query.closest(from[v], kCompareReachMm);
        if (!hit) continue;
        const double side = query.triangle_normals()[hit.triangle].dot(from[v] - hit.position);
        distances.push_back(hit.distance);
        sum += side < 0 ? -hit.distance : hit.distance;
        for (int k = 0; k < 3; ++k) out.share_within_mm[k] += hit.distance <= bounds[k];
    }
    out.distance = summary_of(distances);
    if (distances.empty()) return out;
    out.mean = sum / static_cast<double>(distances.size());
    for (double& s : out.share_within_mm) s /= static_cast<double>(distances.size());
    return out;
}

std::vector<Index> used_vertices(const std::vector<Triangle>& triangles, std::size_t count) {
    VertexMask used(count, 0);
    for (const Triangle& t : triangles) {
        for (const Index v : t) used[v] = 1;
    }
    std::vector<Index> out;
    for (Index v = 0; v < count; ++v) {
        if (used[v]) out.push_back(v);
    }
    return out;
}

// [Besl & McKay 1992], from where the meshes are
Similarity by_icp(const Points& from, const std::vector<Index>& vertices, const Points& to,
                  const std::vector<Triangle>& triangles, bool scale, const Progress& progress) {
    const SurfaceQuery query(to, triangles);
    Similarity total;
    const std::size_t step = std::max<std::size_t>(1, vertices.size() / kIcpSample);
    for (int round = 0; round < kIcpRounds && !progress.is_cancelled(); ++round) {
        Points a, b;
        for (std::size_t i = 0; i < vertices.size(); i += step) {
            const SurfaceHit hit = query.closest(total(from[vertices[i]]), kCompareReachMm);
            if (hit) a.push_back(from[vertices[i]]), b.push_back(hit.position);
        }
        SimilarityOptions options;
        options.allow_scale = scale;
        const auto fit = fit_similarity(a, b, options);
        if (!fit) break;
        const double moved = ((*fit)(a[0]) - total(a[0])).norm();
        total = *fit;
        if (moved < 1e-5) break;
    }
    return total;
}

double asymmetry(const BaseKit& kit, const Points& x) {
    double sum = 0;
    const std::vector<Index>& skin = kit.part("skin")->vertices;
    for (const Index v : skin) {
        const Vec3& p = x[kit.mirror[v]];
        sum += (x[v] - Vec3(-p.x(), p.y(), p.z())).norm();
    }
    return sum / static_cast<double>(skin.size());
}

void compare_vertices(const BaseKit& kit, const Mesh& mesh, const std::vector<Triangle>& triangles, const Points& a,
                      const Points& b, ShapeDifference& out) {
    const KitPart& skin = *kit.part("skin");
    const auto moved = [&](const std::vector<Index>& vertices) {
        std::vector<double> d;
        for (const Index v : vertices) d.push_back((b[v] - a[v]).norm());
        return summary_of(d);
    };
    out.moved = moved(skin.vertices);
    for (const auto& [name, vertices] : kit.regions) out.regions[name] = moved(vertices);
    const FaceIndices faces = faces_of(skin);
    const Distortion d = distortion_of(mesh, faces, a, b);
    out.edge_p95 = d.edge_p95, out.edge_max = d.edge_max, out.area_p95 = d.area_p95, out.area_max = d.area_max,
    out.angle_p95 = d.angle_p95, out.angle_max = d.angle_max;
    Mesh first = mesh;
    first.positions = a;
    VertexMask active(a.size(), 1);
    out.flipped_faces =
        static_cast<Index>(flipped_triangles(make_stencil(first, faces, active), triangles, a, b).size());
    out.first_cuts = static_cast<Index>(self_intersections(a, triangles).size());
    out.second_cuts = static_cast<Index>(self_intersections(b, triangles).size());
    out.first_symmetry_mm = asymmetry(kit, a), out.second_symmetry_mm = asymmetry(kit, b);
}

}  // namespace

Distortion distortion_of(const Mesh& mesh, const FaceIndices& faces, const Points& base, const Points& now) {
    std::vector<double> edges, areas, angles;
    for (const Index f : faces) {
        const Index* c = mesh.corner_vertex.data() + mesh.face_start[f];
        const Index n = mesh.face_size(f);
        Vec3 area0 = Vec3::Zero(), area1 = Vec3::Zero();
        for (Index k = 0; k < n; ++k) {
            const Index a = c[k], b = c[(k + 1) % n], p = c[(k + n - 1) % n];
            const auto angle = [&](const Points& x) {
                const Vec3 u = x[b] - x[a], w = x[p] - x[a];
                return std::atan2(u.cross(w).norm(), u.dot(w)) * 180 / M_PI;
            };
            edges.push_back((now[b] - now[a]).norm() / std::max((base[b] - base[a]).norm(), 1e-9));
            angles.push_back(std::abs(angle(now) - angle(base)));
            area0 += base[a].cross(base[b]);
            area1 += now[a].cross(now[b]);
        }
        areas.push_back(area1.norm() / std::max(area0.norm(), 1e-9));
    }
    Distortion out;
    const auto spread = [](std::vector<double> ratios, double& p95, double& most) {
        if (ratios.empty()) return;
        const double mean = std::max(median(ratios), 1e-9);
        for (double& r : ratios) r = std::max(r / mean, mean / std::max(r, 1e-9));
        p95 = quantile(ratios, 0.95);
        most = quantile(ratios, 1.0);
    };
    spread(edges, out.edge_p95, out.edge_max);
    spread(areas, out.area_p95, out.area_max);
    out.angle_p95 = quantile(angles, 0.95);
    out.angle_max = quantile(angles, 1.0);
    return out;
}

Result<ShapeDifference> compare_shapes(const BaseKit* kit, const Mesh& first, const Mesh& second, Align align,
                                       const Progress& progress) {
    if (auto ok = check_mesh(first, "The first mesh"); !ok) return ok.error();
    if (auto ok = check_mesh(second, "The second mesh"); !ok) return ok.error();
    ShapeDifference out;
    out.same_topology = kit && topology_key(first) == kit->topology_key && topology_key(second) == kit->topology_key;
    std::vector<Triangle> a_triangles = triangulate(first).triangles, b_triangles = triangulate(second).triangles;
    if (out.same_topology) a_triangles = b_triangles = face_triangles(first, skin_faces(*kit));
    const std::vector<Index> in_a = used_vertices(a_triangles, first.positions.size()),
                             in_b = used_vertices(b_triangles, second.positions.size());
    Points b = second.positions;
    progress.say(0.1, "Bringing together");
    if (align != Align::None && out.same_topology) {
        SimilarityOptions options;
        options.allow_scale = align == Align::Similarity;
        Points from, to;
        for (const Index v : in_b) from.push_back(b[v]), to.push_back(first.positions[v]);
        const auto fit = fit_similarity(from, to, options);
        if (!fit) return fit.error();
        out.second_to_first = *fit;
    } else if (align != Align::None) {
        out.second_to_first = by_icp(b, in_b, first.positions, a_triangles, align == Align::Similarity, progress);
    }
    for (Vec3& p : b) p = out.second_to_first(p);
    progress.say(0.4, "Measuring");
    out.second_to_first_surface = from_to(b, in_b, first.positions, a_triangles);
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    out.first_to_second = from_to(first.positions, in_a, b, b_triangles);
    out.first_to_second.mean = -out.first_to_second.mean;  // positive: the second lies outside
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    if (out.same_topology) compare_vertices(*kit, first, a_triangles, first.positions, b, out);
    progress.say(1, "Done");
    return out;
}

}  // namespace veld
