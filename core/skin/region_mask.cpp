#include "core/skin/region_mask.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

namespace veld {
namespace {

constexpr double kMaskBeyond = 4;  // texels past islands
constexpr int kMaskBand = 16;      // rows at a time

}  // namespace

void each_skin_texel(const BakeSurface& surface, const UvTile& tile, int size,
                     const std::function<void(int, int, const TexelPlace&)>& take) {
    const TexelRows rows(surface, tile, size, 1, kMaskBeyond);
    tbb::parallel_for(0, (size + kMaskBand - 1) / kMaskBand, [&](int band) {
        std::vector<TexelPlace> places;
        const int first = kMaskBand * band, count = std::min(kMaskBand, size - first);
        rows.rows(first, count, places);
        for (int y = 0; y < count; ++y) {
            for (int x = 0; x < size; ++x) {
                const TexelPlace& p =
                    places[static_cast<std::size_t>(y) * static_cast<std::size_t>(size) + static_cast<std::size_t>(x)];
                if (p.triangle != kNone && surface.part[p.triangle] == 0) take(x, first + y, p);
            }
        }
    });
}

TexelBlocks region_mask(const BakeSurface& surface, const UvTile& tile, const std::vector<float>& weight, int size) {
    TexelBlocks out(size);
    out.prepare({0, 0, size, size});
    each_skin_texel(surface, tile, size, [&](int x, int y, const TexelPlace& p) {
        const Triangle& c = surface.triangles[p.triangle];
        double share = 0;
        for (std::size_t k = 0; k < 3; ++k)
            share += p.shares[static_cast<Eigen::Index>(k)] * static_cast<double>(weight[c[k]]);
        const auto byte = static_cast<std::uint8_t>(std::lround(255 * std::clamp(share, 0.0, 1.0)));
        out.set(x, y, {byte, byte, byte, 255});
    });
    return out;
}

}  // namespace veld
