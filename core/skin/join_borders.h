#pragma once
// What a map shows at the two sides of a UV border made the same.
//
// Between texels a map is interpolated, and at a border both sides interpolate other texels. Along every border places
// are asked for from both sides, and the texels around them changed as little as it takes for both to answer the same:
// projections onto one such equation after the other [Kaczmarz 1937], the equations of [Ray, Nivoliers, Lefebvre, Levy
// 2010, Invisible Seams, section 3]. Normals are compared as directions in space, each through its side's own frame.
// Across tiles the one that comes later answers what the earlier one did.
#include <map>

#include "core/io/map_image.h"
#include "core/skin/bake_surface.h"

namespace veld {

// What the borders of tiles that are done show, for tiles to come.
class BorderMemory {
 public:
    struct Key {
        Index low, high;  // the edge's vertices
        int place;        // along it, from the first
        int map;          // as the caller numbers them
        auto operator<=>(const Key&) const = default;
    };
    const Vec3* find(const Key& key) const {
        const auto at = shown_.find(key);
        return at == shown_.end() ? nullptr : &at->second;
    }
    void keep(const Key& key, const Vec3& value) { shown_.insert_or_assign(key, value); }

 private:
    std::map<Key, Vec3> shown_;
};

// map: of that tile, whatever it holds. number: tells it from the tile's other maps in the memory.
void join_borders(const BakeSurface& base, const UvTile& tile, int number, bool normals, MapImage& map,
                  BorderMemory& memory);

}  // namespace veld
