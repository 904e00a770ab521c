#pragma once
// From a tile's texels to places of the surface, and beyond its islands' borders across the seam.
#include "core/skin/bake_surface.h"

namespace veld {

// A place of the surface that a texel shows.
struct TexelPlace {
    Index triangle = kNone;      // kNone: none
    bool beyond = false;         // it lies beyond its island's border
    Vec3 shares = Vec3::Zero();  // of its corners, add up to 1
    Index shown_by = kNone;      // whose tangent frame holds there: the triangle itself, or, beyond a border, the
    Vec3 shown_shares = Vec3::Zero();  // border's place that it continues
};

// Does the edge's neighbour lie beside it in the tile as well?
bool continues(const BakeSurface& surface, Index triangle, std::size_t edge);

// A tile at a size (texels a side), each texel at samples x samples places. Texels beyond an island's border, up to
// `beyond` of them, show what lies across the seam on the surface, so that what is interpolated at the border is the
// same from both sides; at an open border they show its edge.
class TexelRows {
 public:
    TexelRows(const BakeSurface& surface, const UvTile& tile, int size, int samples, double beyond);
    // Rows of texels from the top, `count` of them: samples * count rows of samples * size places. out: reused.
    void rows(int first, int count, std::vector<TexelPlace>& out) const;

 private:
    struct BorderEdge {
        Index triangle;
        std::uint8_t edge;
    };
    void fill(Index triangle, int first_line, int lines, std::vector<TexelPlace>& out) const;
    void continue_beyond(const BorderEdge& edge, int first_line, int lines, std::vector<TexelPlace>& out,
                         std::vector<float>& distance) const;
    Vec2 at(Index triangle, std::size_t corner) const;  // in sample places, from the top left

    const BakeSurface& surface_;
    int size_, samples_, wide_;
    double beyond_;
    Vec2 origin_;                                // of the tile, in UVs
    static constexpr int kBucket = 64;           // sample lines
    std::vector<std::vector<Index>> triangles_;  // per bucket of lines
    std::vector<std::vector<BorderEdge>> borders_;
};

// How many triangles claim each texel's middle, rows from the top.
std::vector<std::uint8_t> claimed_texels(const BakeSurface& surface, const UvTile& tile, int size);

}  // namespace veld
