#include "core/landmark/surface_pick.h"

#include <cmath>

namespace veld {

SurfacePoint surface_point(const Triangulation& triangulation, const SurfaceHit& hit) {
    SurfacePoint out;
    out.face = triangulation.triangle_face[hit.triangle];
    out.vertices = triangulation.triangles[hit.triangle];
    out.weights = hit.barycentric;
    return out;
}

SurfaceHit exact_hit(const Mesh& mesh, const Vec3& origin, const Vec3& direction, const SurfaceHit& near) {
    const double slack = 0.01 * bounding_box(mesh.positions).size().norm();
    const Vec3 d = direction.normalized();
    SurfaceHit best;
    Index triangle = 0;
    for (Index f = 0; f < mesh.face_count(); ++f) {
        const Vec3& a = mesh.positions[mesh.corner_vertex[mesh.face_start[f]]];
        for (Index c = mesh.face_start[f] + 1; c + 1 < mesh.face_start[f + 1]; ++c, ++triangle) {
            // Moeller & Trumbore 1997
            const Vec3 e = mesh.positions[mesh.corner_vertex[c]] - a,
                       g = mesh.positions[mesh.corner_vertex[c + 1]] - a;
            const Vec3 h = d.cross(g), s = origin - a;
            const double det = e.dot(h);
            if (det == 0) continue;
            const double u = s.dot(h) / det;
            if (u < 0 || u > 1) continue;
            const Vec3 q = s.cross(e);
            const double v = d.dot(q) / det, t = g.dot(q) / det;
            if (v < 0 || u + v > 1 || t <= 0 || t >= best.distance || std::abs(t - near.distance) > slack) continue;
            best.triangle = triangle, best.distance = t, best.position = origin + t * d,
            best.barycentric = {1 - u - v, u, v};
        }
    }
    return best ? best : near;
}

}  // namespace veld
