#include "core/fit/vertex_figures.h"

#include <tbb/parallel_for.h>

#include <cmath>

#include "core/fit/wrap.h"
#include "core/kit/kit_surface.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kFigureReachMm = 20;
constexpr double kMovedMm = 1e-3;
constexpr float kNothing = std::numeric_limits<float>::quiet_NaN();

// Skin around which something moved.
VertexMask moved_skin(const BaseKit& kit, const Points& fit) {
    VertexMask out(fit.size(), 0);
    for (const Index v : kit.part("skin")->vertices) out[v] = (fit[v] - kit.mesh.positions[v]).norm() > kMovedMm;
    return out;
}

}  // namespace

std::vector<float> signed_distances(const BaseKit& kit, const Points& fit, const SourceSurface& source,
                                    const std::vector<float>& where, const Similarity& to_surface) {
    Points placed;
    placed.reserve(fit.size());
    for (const Vec3& p : fit) placed.push_back(to_surface(p));
    const Points normals = vertex_normals(placed, skin_triangles(kit));
    std::vector<float> out(fit.size(), kNothing);
    tbb::parallel_for(std::size_t{0}, fit.size(), [&](std::size_t v) {
        if (v >= where.size() || std::isnan(where[v])) return;
        const FacingFilter facing{normals[v], 0.2};
        const SurfaceHit hit = source.closest(placed[v], kFigureReachMm, &facing);
        if (!hit) return;
        const double side = source.query->triangle_normals()[hit.triangle].dot(placed[v] - hit.position);
        out[v] = static_cast<float>((side < 0 ? -hit.distance : hit.distance) / to_surface.scale);
    });
    return out;
}

std::vector<float> source_distances(const BaseKit& kit, const Points& fit, const Mesh& source,
                                    const Similarity& to_kit, double reach_mm) {
    const std::vector<Triangle>& triangles = skin_triangles(kit);
    const SurfaceQuery query(fit, triangles);
    std::vector<float> out(source.positions.size(), kNothing);
    tbb::parallel_for(std::size_t{0}, out.size(), [&](std::size_t v) {
        const SurfaceHit hit = query.closest(to_kit(source.positions[v]), reach_mm);
        if (hit) out[v] = static_cast<float>(hit.distance);
    });
    return out;
}

std::vector<float> edge_stretch(const BaseKit& kit, const Points& fit) {
    std::vector<double> now(fit.size(), 0), base(fit.size(), 0);
    const VertexMask moved = moved_skin(kit, fit);
    for (const Index f : skin_faces(kit)) {
        const Index n = kit.mesh.face_size(f);
        const Index* c = kit.mesh.corner_vertex.data() + kit.mesh.face_start[f];
        for (Index k = 0; k < n; ++k) {
            const Index a = c[k], b = c[(k + 1) % n];
            const double length = (fit[a] - fit[b]).norm(),
                         before = (kit.mesh.positions[a] - kit.mesh.positions[b]).norm();
            for (const Index v : {a, b}) now[v] += length, base[v] += before;
        }
    }
    std::vector<double> ratios;
    for (Index v = 0; v < fit.size(); ++v) {
        if (moved[v] && base[v] > 0) ratios.push_back(now[v] / base[v]);
    }
    const double usual = ratios.empty() ? 1.0 : median(ratios);
    std::vector<float> out(fit.size(), kNothing);
    for (Index v = 0; v < fit.size(); ++v) {
        if (moved[v] && base[v] > 0) out[v] = static_cast<float>(now[v] / base[v] / usual - 1);
    }
    return out;
}

std::vector<float> angle_change(const BaseKit& kit, const Points& fit) {
    std::vector<float> out(fit.size(), kNothing);
    const VertexMask moved = moved_skin(kit, fit);
    const auto angle = [](const Vec3& a, const Vec3& at, const Vec3& b) {
        const Vec3 u = a - at, w = b - at;
        return std::atan2(u.cross(w).norm(), u.dot(w)) * 180 / M_PI;
    };
    for (const Index f : skin_faces(kit)) {
        const Index n = kit.mesh.face_size(f);
        const Index* c = kit.mesh.corner_vertex.data() + kit.mesh.face_start[f];
        for (Index k = 0; k < n; ++k) {
            const Index before = c[(k + n - 1) % n], v = c[k], next = c[(k + 1) % n];
            if (!moved[v]) continue;
            const double change =
                std::abs(angle(fit[before], fit[v], fit[next]) -
                         angle(kit.mesh.positions[before], kit.mesh.positions[v], kit.mesh.positions[next]));
            if (std::isnan(out[v]) || change > out[v]) out[v] = static_cast<float>(change);
        }
    }
    return out;
}

}  // namespace veld
