#include "core/kit/kit_surface.h"

#include <algorithm>
#include <map>
#include <numeric>

#include "core/base/smoothstep.h"
#include "core/mesh/corner_split.h"
#include "core/mesh/surface_distance.h"
#include "core/mesh/topology.h"
#include "core/spatial/self_intersections.h"

namespace veld {

TriangleIndices solid_fans(const BaseKit& kit) {
    TriangleIndices out;
    for (Index t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index face = kit.triangulation.triangle_face[t];
        const bool lash = std::any_of(kit.parts.begin(), kit.parts.end(), [&](const KitPart& part) {
            return part.name.starts_with("lash") && part.has_face(face);
        });
        if (!lash) out.push_back(t);
    }
    return out;
}

const std::vector<Triangle>& solid_triangles(const BaseKit& kit) {
    return kit.made.solid_triangles.get([&] {
        std::vector<Triangle> out;
        for (const Index t : solid_fans(kit)) out.push_back(kit.triangulation.triangles[t]);
        return out;
    });
}

FaceIndices faces_of(const KitPart& part) {
    FaceIndices out(part.face_count);
    std::iota(out.begin(), out.end(), part.first_face);
    return out;
}

const FaceIndices& skin_faces(const BaseKit& kit) {
    return kit.made.skin_faces.get([&] { return faces_of(*kit.part("skin")); });
}

const std::vector<Triangle>& skin_triangles(const BaseKit& kit) {
    return kit.made.skin_triangles.get([&] { return face_triangles(kit.mesh, skin_faces(kit)); });
}

const std::vector<std::pair<Index, Index>>& skin_cuts(const BaseKit& kit) {
    return kit.made.cuts.get([&] { return self_intersections(kit.mesh.positions, skin_triangles(kit)); });
}

const Adjacency& kit_neighbours(const BaseKit& kit) {
    return kit.made.neighbours.get(
        [&] { return vertex_neighbours(kit.triangulation.triangles, kit.mesh.vertex_count()); });
}

const Points& kit_normals(const BaseKit& kit) {
    return kit.made.normals.get([&] { return vertex_normals(kit.mesh.positions, kit.triangulation.triangles); });
}

const std::vector<double>& distance_from_neck(const BaseKit& kit) {
    return kit.made.from_neck.get([&] {
        VertexMask head(kit.mesh.positions.size(), 0);  // the way stays in it
        for (const Index v : kit.region("head_skin")) head[v] = 1;
        return surface_distances(kit.mesh.positions, kit_neighbours(kit), kit.neck_ring, &head).distance;
    });
}

std::vector<double> head_fade(const BaseKit& kit, double band_mm) {
    const std::vector<double>& distance = distance_from_neck(kit);
    std::vector<double> fade(distance.size(), 0.0);
    for (const Index v : kit.region("head_skin")) fade[v] = smoothstep(distance[v] / band_mm);
    return fade;
}

VertexMask head_vertices(const BaseKit& kit, const std::vector<double>& fade) {
    VertexMask out(fade.size(), 0);
    for (const Index v : kit.part("skin")->vertices) out[v] = fade[v] > 0;
    return out;
}

Mesh without_body(const BaseKit& kit, double band_mm) {
    const std::vector<double> fade = head_fade(kit, band_mm);
    VertexMask body(kit.mesh.positions.size(), 0);
    for (const Index v : kit.part("skin")->vertices) body[v] = !(fade[v] > 0);
    return without_faces_on(kit.mesh, body);
}

Box head_box(const BaseKit& kit) {
    Box out;
    for (const Index v : kit.region("head_skin")) out.add(kit.mesh.positions[v]);
    return out.empty() ? bounding_box(kit.mesh.positions) : out;
}

std::vector<std::string> skin_regions(const BaseKit& kit) {
    VertexMask skin(kit.mesh.positions.size(), 0), head(skin);
    for (const Index v : kit.part("skin")->vertices) skin[v] = 1;
    for (const Index v : kit.region("head_skin")) head[v] = 1;
    std::vector<std::string> out;
    for (const auto& [name, region] : kit.regions) {
        if (!region.empty() && skin[region.front()] && name != "head_skin" && name != "body_skin") out.push_back(name);
    }
    std::stable_partition(out.begin(), out.end(),
                          [&](const std::string& name) { return head[kit.region(name).front()]; });
    return out;
}

namespace {

// A lash is a strip whose texture lies straight: one coordinate runs along the lid, the other away from it. Which is
// which, and which way, the skin tells: the lid is where the strip is nearest to it.
void lay_strands(const BaseKit& kit, const KitPart& lash, SurfaceKinds& out) {
    const Mesh& mesh = kit.mesh;
    if (mesh.corner_uv.empty()) return;
    std::map<Index, Vec2> uv;
    for (Index f = lash.first_face; f < lash.first_face + lash.face_count; ++f) {
        for (Index c = mesh.face_start[f]; c < mesh.face_start[f + 1]; ++c)
            if (mesh.corner_uv[c] != kNone) uv.emplace(mesh.corner_vertex[c], mesh.uvs[mesh.corner_uv[c]]);
    }
    if (uv.size() < 3) return;
    Points skin;
    Vec3 middle = Vec3::Zero();
    for (const auto& [v, at] : uv) middle += mesh.positions[v] / static_cast<double>(uv.size());
    constexpr double kNearMm = 40;
    for (const Index v : kit.part("skin")->vertices)
        if ((mesh.positions[v] - middle).norm() < kNearMm) skin.push_back(mesh.positions[v]);
    Vec2 low = uv.begin()->second, high = low, mean = Vec2::Zero(), slope = Vec2::Zero();
    for (const auto& [v, at] : uv) {
        low = low.cwiseMin(at), high = high.cwiseMax(at);
        mean += at / static_cast<double>(uv.size());
    }
    const Vec2 size = (high - low).cwiseMax(1e-9);
    for (const auto& [v, at] : uv) {
        double nearest = kNearMm;
        for (const Vec3& p : skin) nearest = std::min(nearest, (p - mesh.positions[v]).norm());
        slope += nearest * (at - mean).cwiseQuotient(size);
    }
    const int away = std::abs(slope.y()) >= std::abs(slope.x()) ? 1 : 0;
    for (const auto& [v, at] : uv) {
        const Vec2 place = (at - low).cwiseQuotient(size);
        out.lash[v] = 1;
        out.along[v] = static_cast<float>(place[1 - away]);
        out.out[v] = static_cast<float>(slope[away] >= 0 ? place[away] : 1 - place[away]);
    }
}

}  // namespace

SurfaceKinds surface_kinds(const BaseKit& kit) {
    const std::vector<float> none(kit.mesh.positions.size(), 0);
    SurfaceKinds out{none, none, none, none};
    for (const KitEye& eye : kit.eyes) {
        const KitPart* part = kit.part(eye.part);
        if (!part) continue;
        for (const Index v : part->vertices) out.eye[v] = 1;
    }
    for (const KitPart& part : kit.parts)
        if (part.name.starts_with("lash") && kit.part("skin")) lay_strands(kit, part, out);
    return out;
}

Vec3 neck_middle(const BaseKit& kit) {
    Vec3 sum = Vec3::Zero();
    for (const Index v : kit.neck_ring) sum += kit.mesh.positions[v];
    return kit.neck_ring.empty() ? sum : Vec3(sum / static_cast<double>(kit.neck_ring.size()));
}

}  // namespace veld
