#pragma once
// The eyes of one, the jaw of another: several shapes weighed region by region.
//
// Regions are soft weights on the base that add up to 1 everywhere, so there is no seam between them. Heads are
// compared at the base's size and place: what a similarity of the whole head explains (a tall person's height, a
// giant's size) is taken out before, else a nose would fly off the face; so one shape at 1 in every region is that
// shape but for its similarity. Eyes, teeth, tongue and lashes belong wholly to one region each, so they move as that
// region's shapes move them and stay whole. The region "body" takes shapes as they are, with their root.
#include "core/morph/morph.h"
#include "core/spatial/surface_query.h"

namespace veld {

struct BaseRegions {
    std::vector<std::string> names;          // "brows", "eyes", ...
    std::vector<std::vector<float>> weight;  // parallel; one per vertex, they add up to 1
    std::vector<std::uint8_t> owner;         // per vertex: the region with the largest weight
    Points base;                             // the base's positions
    VertexIndices head;                      // some of the head's skin, all over it
};
// soft_mm: how wide two regions fade into one another.
BaseRegions face_regions(const BaseKit& kit, double soft_mm = 14);

// The region that a ray meets first on a shape of the base (its query); null: none.
const std::string* region_met(const BaseRegions& regions, const BaseKit& kit, const SurfaceQuery& shape,
                              const Vec3& origin, const Vec3& direction);
// Per region a vertex of its skin in its middle, where it is pointed at: that of the figure's left, when it has two
// sides. kNone: it has no skin.
VertexIndices middles_of(const BaseRegions& regions, const BaseKit& kit);

constexpr std::size_t kMostShapes = 8;  // in a region

// Adds the regions' amounts to `delta` (per vertex of the base) and returns what they move the whole figure by; the
// root goes with the region "body". Unknown names are skipped.
Vec3 add_region_deltas(const BaseRegions& regions, const std::vector<RegionAmount>& amounts,
                       const std::vector<const Morph*>& morphs, Points& delta);
// The same on a shape.
void add_region_mix(const BaseRegions& regions, const std::vector<RegionAmount>& amounts,
                    const std::vector<const Morph*>& morphs, Points& shape);

}  // namespace veld
