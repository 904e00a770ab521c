#include "core/photo/seen.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/kit/kit_surface.h"
#include "core/mesh/topology.h"

namespace veld {

constexpr double kSeenDegrees = 70, kFarMm = 600;
constexpr double kBrowsMm = 25;  // above the root of the nose: a fringe may hang lower than the hairline

bool seen_from(const PhotoCamera& camera, const SurfaceQuery& query, const Vec3& place, double within_mm) {
    const Vec3 towards = camera.towards(place), start = place - kFarMm * towards;
    const SurfaceHit hit = query.first_front_hit(start, towards);
    return !hit || (hit.position - start).norm() > kFarMm - within_mm;
}

std::vector<std::uint32_t> visible_in(const BaseKit& kit, const Points& shape,
                                      const std::vector<PhotoCamera>& cameras) {
    const std::vector<Triangle>& solid = solid_triangles(kit);
    const SurfaceQuery query(shape, solid);
    const Points normals = vertex_normals(shape, solid);
    std::vector<std::uint32_t> out(shape.size(), 0);
    const double least = std::cos(kSeenDegrees * M_PI / 180);
    tbb::parallel_for(std::size_t{0}, shape.size(), [&](std::size_t v) {
        for (std::size_t k = 0; k < cameras.size() && k < 32; ++k) {
            const PhotoCamera& camera = cameras[k];
            if (!camera.parallel && camera.to_camera(shape[v]).z() <= 1) continue;
            const Vec2 pixel = camera.project(shape[v]);
            if (pixel.x() < 0 || pixel.y() < 0 || pixel.x() >= camera.width || pixel.y() >= camera.height) continue;
            if (normals[v].dot(-camera.towards(shape[v])) < least || !seen_from(camera, query, shape[v])) continue;
            out[v] |= 1u << k;
        }
    });
    return out;
}

VertexMask skin_shown(const BaseKit& kit, const Points& shape, const PhotoCamera& camera, const VertexMask& visible,
                      const EdgePicture& picture, const SkinTone& tone) {
    const Adjacency& next = kit_neighbours(kit);
    VertexMask coloured(shape.size(), 0), out(shape.size(), 0);
    for (std::size_t v = 0; v < shape.size(); ++v)
        coloured[v] = visible[v] && tone.skin(picture.colour(camera.project(shape[v])));
    std::vector<Index> front;
    const double brows =
        kit.landmarks.contains("sellion") ? kit.landmarks.at("sellion").at(shape).y() + kBrowsMm : 1e9;
    for (const char* name : {"face", "lips", "lid_l", "lid_r", "eye_l", "eye_r"}) {
        for (const Index v : kit.region(name)) {
            if (visible[v] && !out[v] && shape[v].y() < brows) out[v] = 1, front.push_back(v);
        }
    }
    while (!front.empty()) {
        const Index v = front.back();
        front.pop_back();
        for (const Index* n = next.begin(v); n != next.end(v); ++n) {
            if (out[*n] || !coloured[*n]) continue;
            // a strand of hair lets single places through: most of what is around has to be skin as well
            const auto skin =
                std::count_if(next.begin(*n), next.end(*n), [&](Index i) { return coloured[i] || out[i]; });
            if (3 * skin < 2 * (next.end(*n) - next.begin(*n))) continue;
            out[*n] = 1, front.push_back(*n);
        }
    }
    // the edge of what is skin shows skin itself
    VertexMask with_edge = out;
    for (std::size_t v = 0; v < shape.size(); ++v) {
        if (out[v] || !coloured[v]) continue;
        with_edge[v] = static_cast<char>(std::any_of(
            next.begin(static_cast<Index>(v)), next.end(static_cast<Index>(v)), [&](Index i) { return out[i]; }));
    }
    return with_edge;
}

}  // namespace veld
