#include "app/prepared_source.h"

#include "core/landmark/surface_pick.h"

namespace veld {
namespace {
constexpr std::size_t kLightAbove = 1'200'000;  // triangles
constexpr std::size_t kLightTriangles = 500'000;
}  // namespace

std::shared_ptr<PreparedSource> prepare_for_window(std::shared_ptr<const Mesh> mesh) {
    auto out = std::make_shared<PreparedSource>();
    out->mesh = std::move(mesh);
    if (out->mesh->corner_vertex.size() - 2 * std::size_t{out->mesh->face_count()} > kLightAbove)
        out->light = light_version(*out->mesh, kLightTriangles);
    out->triangulation = triangulate(out->shown());
    out->query = std::make_unique<SurfaceQuery>(out->shown().positions, out->triangulation.triangles);
    out->display = std::make_shared<DisplayMesh>(out->shown());
    constexpr int kSnapTexture = 4096;  // finer than a hand can point
    out->colour = SurfaceColour(out->shown(), kSnapTexture);
    return out;
}

SurfaceHit PreparedSource::first_hit(const Vec3& origin, const Vec3& direction) const {
    const SurfaceHit hit = query->first_hit(origin, direction);
    if (light.origin.empty() || !hit) return hit;
    return exact_hit(*mesh, origin, direction, hit);
}

VertexMask PreparedSource::as_shown(const VertexMask& mask) const {
    if (light.origin.empty() || mask.empty()) return mask;
    VertexMask out;
    out.reserve(light.origin.size());
    for (Index v : light.origin) out.push_back(mask[v]);
    return out;
}

}  // namespace veld
