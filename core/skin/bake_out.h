#pragma once
// Baked maps as files, each tile and map by a naming pattern, and a sheet that says what they are.
#include "core/skin/bake.h"

namespace veld {

inline constexpr const char* kMapPattern = "{name}_{map}.{tile}";

struct MapFiles {
    std::string folder, name, pattern = kMapPattern;  // {name}, {map}, {tile}, {udim}
    MapFormat format = MapFormat::Png8, heights = MapFormat::Tiff32;
};

class MapWriter {
 public:
    MapWriter(MapFiles files, const std::vector<UvTile>& tiles) : files_(std::move(files)), tiles_(tiles) {}
    // Makes the folder. Fails with BadInput where two maps would get one name; nothing is written then.
    Status prepare() const;
    // A map that cannot be written takes none of those that are there with it.
    Status write(const BakedTile& tile);
    // NAME_maps.json: files, sizes, formats, the range of heights, colours of parts and regions, the bake's figures.
    Status write_about(const BakeReport& report);
    // The error with what was written before it: that stays.
    Error stopped(Error error) const;
    const std::vector<std::string>& written() const { return written_; }

 private:
    struct Written {
        std::string file, map, tile, format;
        int size = 0;
        double zero_at = 0, mm_per_unit = 0;  // of heights scaled to 0..1
    };
    std::string path_of(const UvTile& tile, SkinMap map) const;

    MapFiles files_;
    std::vector<UvTile> tiles_;
    std::vector<std::string> written_;
    std::vector<Written> about_;
};

// Heights scaled to 0..1 around 0.5; mm_per_unit: what 1 is long.
MapImage scaled_heights(const MapImage& heights, double& mm_per_unit);

}  // namespace veld
