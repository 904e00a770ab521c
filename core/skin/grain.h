#pragma once
// A person's own grain (pores, freckles, mottling) for skin that is filled, made from what is seen of it.
//
// Patches of evenly seen skin are laid over the surface, each at a place of its own, turned at random, and blended
// where they overlap so that the grain keeps its contrast and no patch is seen twice in one place [patches along a
// surface: Praun, Finkelstein, Hoppe 2000, Lapped Textures; blending that keeps the variance: Heitz & Neyret 2018,
// High-Performance By-Example Noise using a Histogram-Preserving Blending Operator, for a grain without a mean].
#include <functional>
#include <memory>
#include <optional>
#include <unordered_map>

#include "core/skin/bake_surface.h"
#include "core/spatial/surface_query.h"

namespace veld {

class SkinGrain {
 public:
    // At a place of the base: by how much the logarithm of its linear colour differs from what is smooth around it.
    // Nothing where no skin is seen.
    using Detail = std::function<std::optional<Vec3>(const SkinSpot&)>;

    // from: vertices around which grain may be taken; onto: per vertex of the base, 1 where it is wanted. texel_mm:
    // how fine it is kept. surface must outlive it. Null where there is too little to take it from.
    static std::unique_ptr<SkinGrain> make(const BakeSurface& surface, const std::vector<Index>& from,
                                           const VertexMask& onto, const Detail& detail, double texel_mm);

    // What is to be added to the logarithm there.
    Vec3 at(Index triangle, const Vec3& shares) const;
    std::size_t patches() const { return patches_.size(); }

 private:
    struct Patch {
        std::vector<Eigen::Vector3f> texels;  // side_ x side_
    };
    // Where a patch lies.
    struct Spot {
        Vec3 place, along, across, normal;
        std::uint32_t patch;
    };
    SkinGrain() = default;
    std::optional<Patch> take(const SurfaceQuery& query, Index vertex, const Detail& detail) const;
    void find_patches(const std::vector<Index>& from, const Detail& detail);
    void scatter(const VertexMask& onto);
    std::uint64_t cell(const Vec3& p, int dx, int dy, int dz) const;

    const BakeSurface* surface_ = nullptr;
    int side_ = 0;
    double step_ = 1;  // mm between a patch's texels
    std::vector<Patch> patches_;
    std::vector<Spot> spots_;
    std::unordered_map<std::uint64_t, std::vector<std::uint32_t>> cells_;
};

}  // namespace veld
