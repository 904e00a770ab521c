#pragma once
// The eyes of one, the jaw of another: several shapes weighed region by region.
//
// Regions are soft weights on the base that add up to 1 everywhere, so there is no seam between them, and one shape at
// the same amount in every region is that shape (but for where its head stands). Eyes, teeth, tongue and lashes belong wholly to one region each, so
// they move as that region's shapes move them and stay whole. Above the neck shapes are compared from the neck up: how
// high or where a person's head stands is left to the region "body".
#include "core/morph/morph.h"

namespace veld {

struct BaseRegions {
    std::vector<std::string> names;                // "brows", "eyes", ...
    std::vector<std::vector<float>> weight;        // parallel; one per vertex, they add up to 1
    std::vector<std::uint8_t> owner;               // per vertex: the region with the largest weight
    std::vector<Index> neck_ring;                  // of the kit
};
// soft_mm: how wide two regions fade into one another.
BaseRegions face_regions(const BaseKit& kit, double soft_mm = 14);

constexpr std::size_t kMostShapes = 8;   // in a region

struct RegionAmount {
    std::string region, morph;   // by name
    double amount = 0;
    bool operator==(const RegionAmount&) const = default;
};

// Adds the regions' amounts to `delta` (per vertex of the base) and returns what they move the whole figure by; the root
// goes with the region "body". Unknown names are skipped.
Vec3 add_region_deltas(const BaseRegions& regions, const std::vector<RegionAmount>& amounts, const std::vector<const Morph*>& morphs, Points& delta);
// The same on a shape.
void add_region_mix(const BaseRegions& regions, const std::vector<RegionAmount>& amounts, const std::vector<const Morph*>& morphs, Points& shape);

}  // namespace veld
