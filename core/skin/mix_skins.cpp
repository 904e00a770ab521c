#include "core/skin/mix_skins.h"

#include <algorithm>
#include <cmath>

#include "core/io/map_image.h"
#include "core/skin/compose.h"
#include "core/skin/region_mask.h"

namespace veld {
namespace {

// Per vertex, the share of each skin.
std::vector<std::vector<float>> weights_of(const BaseKit& kit, const std::vector<SkinShare>& shares) {
    const bool regions =
        std::any_of(shares.begin(), shares.end(), [](const SkinShare& s) { return !s.in_regions.empty(); });
    const BaseRegions soft = regions ? face_regions(kit) : BaseRegions{};
    std::vector<std::vector<float>> out(shares.size(), std::vector<float>(kit.mesh.positions.size(), 0));
    for (std::size_t v = 0; v < kit.mesh.positions.size(); ++v) {
        double sum = 0;
        for (std::size_t i = 0; i < shares.size(); ++i) {
            double amount = shares[i].amount;
            for (std::size_t r = 0; r < soft.names.size(); ++r) {
                const auto at = shares[i].in_regions.find(soft.names[r]);
                if (at != shares[i].in_regions.end()) amount += at->second * static_cast<double>(soft.weight[r][v]);
            }
            out[i][v] = static_cast<float>(std::max(0.0, amount));
            sum += std::max(0.0, amount);
        }
        for (std::size_t i = 0; sum > 1 && i < shares.size(); ++i) out[i][v] /= static_cast<float>(sum);
    }
    return out;
}

void add_skin(const BakeSurface& base, const UvTile& tile, const Pixels& one, const std::vector<float>& weight,
              std::vector<Eigen::Vector4f>& sum) {
    each_skin_texel(base, tile, one.width, [&](int x, int y, const TexelPlace& p) {
        const Triangle& c = base.triangles[p.triangle];
        double share = 0;
        for (std::size_t k = 0; k < 3; ++k)
            share += p.shares[static_cast<Eigen::Index>(k)] * static_cast<double>(weight[c[k]]);
        const std::size_t i =
            static_cast<std::size_t>(y) * static_cast<std::size_t>(one.width) + static_cast<std::size_t>(x);
        for (int k = 0; k < 3; ++k)
            sum[i][k] +=
                static_cast<float>(share * srgb_to_linear(one.rgba[4 * i + static_cast<std::size_t>(k)] / 255.0));
        sum[i][3] += static_cast<float>(share);
    });
}

}  // namespace

Result<SkinLayer> mixed_skin(const BaseKit& kit, const std::vector<SkinShare>& shares, const std::string& name,
                             int size, const Progress& progress) {
    const auto base = bake_surface(kit, kit.mesh.positions);
    if (!base) return base.error();
    const std::vector<std::vector<float>> weight = weights_of(kit, shares);
    SkinLayer out;
    out.from = LayerFrom::Worn, out.name = name;
    const auto texels = static_cast<std::size_t>(size) * static_cast<std::size_t>(size);
    for (const UvTile& tile : base->tiles) {
        std::vector<Eigen::Vector4f> sum(texels, Eigen::Vector4f::Zero());
        bool any = false;
        for (std::size_t i = 0; i < shares.size(); ++i) {
            if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
            progress.say(0.1, "Tile " + tile.name);
            if (std::none_of(tile.triangles.begin(), tile.triangles.end(), [&](Index t) {
                    return std::any_of(base->triangles[t].begin(), base->triangles[t].end(),
                                       [&](Index v) { return base->part[t] == 0 && weight[i][v] > 0; });
                }))
                continue;
            LayeredSkin skin = at_stage(*shares[i].skin, {});
            skin.size = size;
            const auto pixels = composed_tile(kit.mesh, *base, tile, skin);
            if (!pixels) return pixels.error();
            add_skin(*base, tile, *pixels, weight[i], sum);
            any = true;
        }
        if (!any) continue;
        Pixels mixed;
        mixed.width = mixed.height = size;
        mixed.rgba.assign(4 * texels, 0);
        for (std::size_t i = 0; i < texels; ++i) {
            const double share = static_cast<double>(sum[i][3]);
            if (!(share > 0)) continue;
            for (int k = 0; k < 3; ++k)
                mixed.rgba[4 * i + static_cast<std::size_t>(k)] = static_cast<std::uint8_t>(
                    std::lround(255 * linear_to_srgb(std::clamp(static_cast<double>(sum[i][k]) / share, 0.0, 1.0))));
            mixed.rgba[4 * i + 3] = static_cast<std::uint8_t>(std::lround(255 * std::min(1.0, share)));
        }
        out.tiles[tile.name].picture = std::make_shared<Image>(Image{"picture.png", "image/png", encode_png(mixed)});
    }
    if (out.tiles.empty())
        return Error{ErrorCode::BadInput, "No skin is mixed in: give at least one an amount of more than 0."};
    return out;
}

}  // namespace veld
