#include "core/kit/kit_surface.h"

#include <algorithm>
#include <numeric>

#include "core/base/smoothstep.h"
#include "core/mesh/surface_distance.h"
#include "core/mesh/topology.h"

namespace veld {

std::vector<Index> solid_fans(const BaseKit& kit) {
    std::vector<Index> out;
    for (Index t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index face = kit.triangulation.triangle_face[t];
        const bool lash = std::any_of(kit.parts.begin(), kit.parts.end(), [&](const KitPart& part) {
            return part.name.starts_with("lash") && part.has_face(face);
        });
        if (!lash) out.push_back(t);
    }
    return out;
}

std::vector<Triangle> solid_triangles(const BaseKit& kit) {
    std::vector<Triangle> out;
    for (const Index t : solid_fans(kit)) out.push_back(kit.triangulation.triangles[t]);
    return out;
}

std::vector<Index> faces_of(const KitPart& part) {
    std::vector<Index> out(part.face_count);
    std::iota(out.begin(), out.end(), part.first_face);
    return out;
}

std::vector<Index> skin_faces(const BaseKit& kit) { return faces_of(*kit.part("skin")); }

std::vector<Triangle> skin_triangles(const BaseKit& kit) { return face_triangles(kit.mesh, skin_faces(kit)); }

std::vector<double> head_fade(const BaseKit& kit, double band_mm) {
    // along the edges from the neck ring, into the head only
    const std::size_t count = kit.mesh.positions.size();
    VertexMask head(count, 0);
    for (Index v : kit.region("head_skin")) head[v] = 1;
    const std::vector<double> distance =
        surface_distances(kit.mesh.positions, vertex_neighbours(kit.triangulation.triangles, kit.mesh.vertex_count()),
                          kit.neck_ring, &head)
            .distance;
    std::vector<double> fade(count, 0.0);
    for (std::size_t v = 0; v < count; ++v) {
        if (head[v]) fade[v] = smoothstep(distance[v] / band_mm);
    }
    return fade;
}

VertexMask head_vertices(const BaseKit& kit, const std::vector<double>& fade) {
    VertexMask out(fade.size(), 0);
    for (const Index v : kit.part("skin")->vertices) out[v] = fade[v] > 0;
    return out;
}

}  // namespace veld
