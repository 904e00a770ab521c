#pragma once
// A source made ready for matching: in the kit's frame, seen through its doubled seams, with its
// open borders known and its small components left out.
#include <memory>
#include <mutex>

#include "core/base/similarity.h"
#include "core/mesh/mesh.h"
#include "core/spatial/surface_query.h"

namespace veld {

struct SourceSurface {
    Points positions;  // kit frame, mm
    // The same with the noise averaged out (denoise.h); made when the last levels of a fit first ask for it.
    struct Denoised {
        std::once_flag made;
        Points places;  // empty: there is no noise worth averaging
    };
    std::shared_ptr<Denoised> averaged;  // null: never asked for
    std::vector<Triangle> triangles;     // without small components and degenerate triangles
    std::vector<Index> origin;           // per triangle: which fan triangle of the source it is; only when asked for
    std::vector<std::array<bool, 3>> border;  // edge k joins corners k and k+1
    Index small_components = 0;               // that were left out
    std::unique_ptr<SurfaceQuery> query;

    SurfaceHit closest(const Vec3& p, double reach, const FacingFilter* facing) const {
        return query->closest(p, reach, facing);
    }
    // Null: as they are. Takes a moment the first time.
    const Points* denoised_places() const;
    // where a fit is drawn to by that hit; averaged: denoised_places() or null
    Vec3 target(const SurfaceHit& hit, const Points* averaged) const {
        Vec3 out = hit.position;
        for (std::size_t k = 0; k < 3 && averaged; ++k)
            out +=
                hit.barycentric[k] * ((*averaged)[triangles[hit.triangle][k]] - positions[triangles[hit.triangle][k]]);
        return out;
    }
    // How much of a match a hit is, 0..1: none where the closest place lies to the side of the point and not under or
    // over it, since the surface ends there or turns away. normal: of the shape at that point, unit.
    static double lies_under(const SurfaceHit& hit, const Vec3& from, const Vec3& normal);
    bool on_border(const SurfaceHit& hit) const {
        for (std::size_t k = 0; k < 3; ++k) {
            if (border[hit.triangle][k] && hit.barycentric[(k + 2) % 3] < 1e-6) return true;
        }
        return false;
    }
};

// Pieces with less than component_share of the largest piece's area that touch none of the large ones
// never attract a fit.
// ignored: null, or one per vertex; triangles with three ignored corners are not there.
SourceSurface prepare_source(const Mesh& source, const Similarity& to_kit, const VertexMask* ignored = nullptr,
                             double component_share = 0.02, bool keep_origin = false);

// The same surface after another step of placing: what does not depend on the place is not looked for again.
SourceSurface moved_on(const SourceSurface& surface, const Similarity& step);

}  // namespace veld
