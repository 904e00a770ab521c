#pragma once
// Maps of a surface as pictures: colours, normals, heights. With 16 bits or floats where 8 are too few, and as files
// (libpng, libtiff, OpenEXR).
#include <optional>
#include <string>

#include "core/base/result.h"
#include "core/io/image.h"

namespace veld {

// Rows from the top. Either `unit` (0..65535 stands for 0..1) or `real` is filled.
struct MapImage {
    int width = 0, height = 0, channels = 3;  // 1 or 3
    bool srgb = false;                        // what is in `unit` is sRGB-encoded colour; else it is linear data
    std::vector<std::uint16_t> unit;
    std::vector<float> real;

    std::size_t texels() const { return static_cast<std::size_t>(width) * static_cast<std::size_t>(height); }
    bool empty() const { return unit.empty() && real.empty(); }
};

double srgb_to_linear(double value);  // both 0..1 [IEC 61966-2-1]
double linear_to_srgb(double value);

enum class MapFormat { Png8, Png16, Tiff8, Tiff16, Tiff32, Exr16, Exr32 };
const char* map_format_name(MapFormat format);  // "png16"
std::optional<MapFormat> map_format_from_name(const std::string& name);
const char* map_format_ending(MapFormat format);  // ".png"
// Can it hold numbers beyond 0..1?
bool holds_reals(MapFormat format);

// The bytes of a file. EXR files hold linear light; the others colours as sRGB, and say so. `real` into a format of
// 0..1 fails with BadInput. Lossless compression throughout. Fails with Limit when there is no memory for it.
Result<std::string> encode_map(const MapImage& map, MapFormat format);

// 8 bits a channel, for showing; one channel as grey. `real` is shown with `grey` as the middle and `span` on each
// side.
Pixels map_pixels(const MapImage& map, double grey = 0, double span = 1);

}  // namespace veld
