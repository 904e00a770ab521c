#include "core/fit/source_surface.h"

#include <algorithm>
#include <cmath>

#include "core/base/smoothstep.h"
#include "core/fit/denoise.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kNoiseMm = 1, kFarMm = 3;                   // nearer than the first, noise says where a place lies
constexpr double kBesideCosine = 0.35, kUnderCosine = 0.65;  // to the normal
constexpr double kAttachedMm = 1.0;  // a small piece this near the large ones belongs to them (an eye's surface)

// Large pieces stay, and small ones that touch them; what floats about does not.
std::vector<char> kept_components(const Points& positions, const std::vector<Triangle>& triangles,
                                  const std::vector<Index>& component, const std::vector<double>& area, double share) {
    const double largest = area.empty() ? 0 : *std::max_element(area.begin(), area.end());
    std::vector<char> keep(area.size(), 0);
    bool any_small = false;
    for (std::size_t c = 0; c < area.size(); ++c) {
        keep[c] = area[c] > 0 && area[c] >= share * largest;
        any_small |= area[c] > 0 && !keep[c];
    }
    if (!any_small) return keep;
    std::vector<Triangle> main;
    for (const Triangle& t : triangles) {
        if (keep[component[t[0]]]) main.push_back(t);
    }
    const SurfaceQuery query(positions, main);
    std::vector<char> attached(area.size(), 0);
    for (Index v = 0; v < positions.size(); ++v) {
        const Index c = component[v];
        if (area[c] > 0 && !keep[c] && !attached[c])
            attached[c] = static_cast<bool>(query.closest(positions[v], kAttachedMm));
    }
    for (std::size_t c = 0; c < area.size(); ++c) keep[c] = keep[c] || attached[c];
    return keep;
}

}  // namespace

SourceSurface prepare_source(const Mesh& source, const Similarity& to_kit, const VertexMask* ignored,
                             double component_share, bool keep_origin) {
    SourceSurface out;
    out.positions.reserve(source.positions.size());
    for (const Vec3& p : source.positions) out.positions.push_back(to_kit(p));
    std::vector<Triangle> all = triangulate(source).triangles;

    Index components = 0;
    const std::vector<Index> component = vertex_components(source, &components);
    std::vector<double> area(components, 0.0);
    const auto twice_area = [&](const Triangle& t) {
        return (out.positions[t[1]] - out.positions[t[0]]).cross(out.positions[t[2]] - out.positions[t[0]]).norm();
    };
    for (const Triangle& t : all) area[component[t[0]]] += twice_area(t);
    const std::vector<char> keep = kept_components(out.positions, all, component, area, component_share);
    for (std::size_t c = 0; c < area.size(); ++c) out.small_components += area[c] > 0 && !keep[c];
    out.triangles.reserve(all.size());
    for (Index i = 0; i < all.size(); ++i) {
        const Triangle& t = all[i];
        const bool left_out = ignored && (*ignored)[t[0]] && (*ignored)[t[1]] && (*ignored)[t[2]];
        if (left_out || !keep[component[t[0]]] || !(twice_area(t) > 0)) continue;
        out.triangles.push_back(t);
        if (keep_origin) out.origin.push_back(i);
    }
    all.clear();
    all.shrink_to_fit();
    out.border = border_edges(out.triangles, same_place(out.positions));
    out.query = std::make_unique<SurfaceQuery>(out.positions, out.triangles);
    return out;
}

double SourceSurface::lies_under(const SurfaceHit& hit, const Vec3& from, const Vec3& normal) {
    if (hit.distance <= kNoiseMm) return 1;
    const double cosine = std::abs((hit.position - from).dot(normal)) / hit.distance;
    const double under = smoothstep((cosine - kBesideCosine) / (kUnderCosine - kBesideCosine));
    return 1 - smoothstep((hit.distance - kNoiseMm) / (kFarMm - kNoiseMm)) * (1 - under);
}

const Points* SourceSurface::denoised_places() const {
    if (!averaged) return nullptr;
    std::call_once(averaged->made, [&] { averaged->places = denoised(positions, triangles); });
    return averaged->places.empty() ? nullptr : &averaged->places;
}

SourceSurface moved_on(const SourceSurface& surface, const Similarity& step) {
    SourceSurface out;
    out.positions.reserve(surface.positions.size());
    for (const Vec3& p : surface.positions) out.positions.push_back(step(p));
    if (surface.averaged) out.averaged = std::make_shared<SourceSurface::Denoised>();
    out.triangles = surface.triangles, out.origin = surface.origin, out.border = surface.border,
    out.small_components = surface.small_components;
    out.query = std::make_unique<SurfaceQuery>(out.positions, out.triangles);
    return out;
}

}  // namespace veld
