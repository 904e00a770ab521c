#pragma once
// What of a skin's layers is seen on a tile.
#include "core/skin/bake_surface.h"
#include "core/skin/layers.h"

namespace veld {

// The base's own skin on a tile: its picture, or the colours of its materials.
Result<Pixels> base_texels(const Mesh& kit_mesh, const BakeSurface& base, const UvTile& tile, int size);

// A layer's texels on one tile, read from its PNG and at the skin's size.
struct ReadLayer {
    LayerId id;
    TexelBlocks picture;  // paint over what was baked; size 0: nothing
    std::shared_ptr<const TexelBlocks> mask;
    double amount = 1;
    LayerBlend blend = LayerBlend::Over;
};
// Fails with BadFile on a picture that cannot be read.
Result<ReadLayer> read_layer(const SkinLayer& layer, const std::string& tile, int size);

// One over the other, sRGB 0..1; alpha: of the upper one.
Vec3 blended(LayerBlend blend, const Vec3& below, const Vec3& above, double alpha);
// What of a tile is seen, from the base's own texels (of the same size) upwards; only `part` of `out` is written.
void compose(const Pixels& base, const std::vector<ReadLayer>& layers, const TexelRect& part, Pixels& out);
// A picture at another size; smaller by averages of what falls together (in linear light), larger by in between.
Pixels resized(const Pixels& pixels, int size);

// A whole tile. Fails as read_layer() and base_texels() do.
Result<Pixels> composed_tile(const Mesh& kit_mesh, const BakeSurface& base, const UvTile& tile,
                             const LayeredSkin& skin);

// A tile on the way from its plain look to those of its stages, each by its amount 0..1; all of one size.
using StageAmounts = std::vector<std::pair<std::shared_ptr<const Pixels>, double>>;
Pixels between_stages(const Pixels& plain, const StageAmounts& stages);

// What a skin looks like near each vertex: logarithms of linear colours; nothing where no tile shows it, nor off the
// skin.
Result<std::vector<std::optional<Vec3>>> skin_logs(const Mesh& kit_mesh, const BakeSurface& base,
                                                   const LayeredSkin& skin);

}  // namespace veld
