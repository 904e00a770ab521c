#pragma once
// Skin whose colours and relief are known at every place of the base, for judging what is baked of it.
#include "core/skin/bake.h"

namespace veld {

// Colours of a made-up skin at a place of the base at rest: a tone with patches and freckles. sRGB 0..1.
Vec3 known_colour(const Vec3& on_base);
// mm that a made-up relief stands out there, at most 0.6: folds of some millimetres. Nothing on eyes and inside.
double known_relief(const Vec3& on_base);

// The base in a shape, subdivided and raised by the relief, coloured as known: a sculpt whose truth is known.
Mesh known_sculpt(const BaseKit& kit, const Points& shape, int level);

// CIEDE2000 [Sharma, Wu, Dalal 2005]. Both sRGB 0..1.
double colour_difference(const Vec3& a, const Vec3& b);

// A map at a place of its tile, between texels.
Vec3 map_at(const MapImage& map, const UvTile& tile, const Vec2& uv);

// How far the two sides of UV borders differ, of 255: places along every border of the skin that has its other side in
// a tile with maps, all maps of `which` by tile name.
struct BorderSteps {
    double mean = 0, far = 0, most = 0;  // far: 95 of 100 are less
};
BorderSteps border_steps(const BakeSurface& base, const std::map<std::string, MapImage>& maps, bool normals);

}  // namespace veld
