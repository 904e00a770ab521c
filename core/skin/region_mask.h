#pragma once
// Soft regions of the base on a tile, as a layer's mask; and the regions themselves over texels.
#include <functional>

#include "core/skin/texel_blocks.h"
#include "core/skin/texels.h"

namespace veld {

// Calls take(x, y, place) for the texels of a tile that show the skin, and some beyond islands' borders; several
// threads at once, never of one row.
void each_skin_texel(const BakeSurface& surface, const UvTile& tile, int size,
                     const std::function<void(int, int, const TexelPlace&)>& take);

// weight: per vertex of the surface, 0..1; 255 where it is 1. Eyes, teeth and the like are 0.
TexelBlocks region_mask(const BakeSurface& surface, const UvTile& tile, const std::vector<float>& weight, int size);

}  // namespace veld
