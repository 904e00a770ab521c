#include "core/skin/compose.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/io/map_image.h"
#include "core/skin/colour_of.h"
#include "core/skin/log_colour.h"
#include "core/skin/smooth_colours.h"
#include "core/skin/texels.h"

namespace veld {
namespace {

constexpr double kBaseBeyond = 4;  // texels past islands
constexpr int kLogsSize = 1024;    // texels a side, enough for a colour at each vertex

double luma(const Vec3& c) { return 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2]; }

// A colour with another lightness: what leaves 0..1 is drawn towards grey [W3C Compositing and Blending,
// section 10.2].
Vec3 with_luma(const Vec3& c, double wanted) {
    Vec3 out = c + Vec3::Constant(wanted - luma(c));
    const double l = luma(out), low = out.minCoeff(), high = out.maxCoeff();
    const Vec3 grey = Vec3::Constant(l);
    if (low < 0) out = grey + (out - grey) * (l / std::max(1e-9, l - low));
    if (high > 1) out = grey + (out - grey) * ((1 - l) / std::max(1e-9, high - l));
    return out.cwiseMax(0).cwiseMin(1);
}

double soft_light(double below, double above) {
    if (above <= 0.5) return below - (1 - 2 * above) * below * (1 - below);
    const double d = below <= 0.25 ? ((16 * below - 12) * below + 4) * below : std::sqrt(below);
    return below + (2 * above - 1) * (d - below);
}

const auto linear_of_byte = [] {
    std::array<float, 256> out{};
    for (std::size_t i = 0; i < 256; ++i) out[i] = static_cast<float>(srgb_to_linear(static_cast<double>(i) / 255));
    return out;
}();

Pixels shrunk(const Pixels& p, int size) {
    Pixels out;
    out.width = out.height = size;
    out.rgba.resize(std::size_t{4} * static_cast<std::size_t>(size) * static_cast<std::size_t>(size));
    tbb::parallel_for(0, size, [&](int y) {
        const int y0 = y * p.height / size, y1 = std::max(y0 + 1, (y + 1) * p.height / size);
        for (int x = 0; x < size; ++x) {
            const int x0 = x * p.width / size, x1 = std::max(x0 + 1, (x + 1) * p.width / size);
            double sum[4] = {0, 0, 0, 0}, weight = 0;
            for (int j = y0; j < y1; ++j) {
                for (int i = x0; i < x1; ++i) {
                    const std::uint8_t* q =
                        &p.rgba[4 * (static_cast<std::size_t>(j) * static_cast<std::size_t>(p.width) +
                                     static_cast<std::size_t>(i))];
                    const double a = q[3] + 1e-3;
                    for (int k = 0; k < 3; ++k) sum[k] += a * linear_of_byte[q[k]];
                    sum[3] += q[3], weight += a;
                }
            }
            std::uint8_t* to = &out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size) +
                                              static_cast<std::size_t>(x))];
            for (int k = 0; k < 3; ++k)
                to[k] = static_cast<std::uint8_t>(std::lround(255 * linear_to_srgb(std::min(1.0, sum[k] / weight))));
            to[3] = static_cast<std::uint8_t>(std::lround(sum[3] / ((y1 - y0) * (x1 - x0))));
        }
    });
    return out;
}

void put_over(TexelBlocks& picture, const TexelBlocks& paint) {
    const int n = picture.size();
    for (const std::uint32_t slot : paint.used()) {
        const int across = (n + TexelBlocks::kSide - 1) / TexelBlocks::kSide;
        const int left = static_cast<int>(slot) % across * TexelBlocks::kSide,
                  top = static_cast<int>(slot) / across * TexelBlocks::kSide;
        const TexelRect part = TexelRect{left, top, left + TexelBlocks::kSide, top + TexelBlocks::kSide}.within(n);
        for (int y = part.top; y < part.bottom; ++y) {
            for (int x = part.left; x < part.right; ++x) {
                const TexelBlocks::Texel above = paint.at(x, y);
                if (above[3] == 0) continue;
                const TexelBlocks::Texel below = picture.at(x, y);
                const double a = above[3] / 255.0, b = below[3] / 255.0, all = a + b * (1 - a);
                TexelBlocks::Texel out;
                for (std::size_t k = 0; k < 3; ++k)
                    out[k] = static_cast<std::uint8_t>(std::lround((a * above[k] + (1 - a) * b * below[k]) / all));
                out[3] = static_cast<std::uint8_t>(std::lround(255 * all));
                picture.set(x, y, out);
            }
        }
    }
}

}  // namespace

Result<Pixels> base_texels(const Mesh& kit_mesh, const BakeSurface& base, const UvTile& tile, int size) {
    if (tile.image >= 0) {
        auto read = decode_image(kit_mesh.images[static_cast<std::size_t>(tile.image)]);
        if (!read) return read.error();
        return resized(*read, size);
    }
    Pixels out;
    out.width = out.height = size;
    out.rgba.assign(std::size_t{4} * static_cast<std::size_t>(size) * static_cast<std::size_t>(size), 255);
    const TexelRows rows(base, tile, size, 1, kBaseBeyond);
    std::vector<TexelPlace> places;
    for (int y = 0; y < size; ++y) {
        rows.rows(y, 1, places);
        for (int x = 0; x < size; ++x) {
            const Index t = places[static_cast<std::size_t>(x)].triangle;
            const Colour c = t == kNone ? Colour{128, 128, 128, 255} : base.plain[t];
            std::uint8_t* to = &out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size) +
                                              static_cast<std::size_t>(x))];
            to[0] = c.r, to[1] = c.g, to[2] = c.b;
        }
    }
    return out;
}

Pixels resized(const Pixels& p, int size) {
    if (p.width == size && p.height == size) return p;
    if (p.width >= size && p.height >= size) return shrunk(p, size);
    Pixels out;
    out.width = out.height = size;
    out.rgba.resize(std::size_t{4} * static_cast<std::size_t>(size) * static_cast<std::size_t>(size), 255);
    const Pixels alpha = [&] {
        Pixels a = p;
        for (std::size_t i = 0; i < a.rgba.size(); i += 4) a.rgba[i] = a.rgba[i + 3];
        return a;
    }();
    tbb::parallel_for(0, size, [&](int y) {
        for (int x = 0; x < size; ++x) {
            const Vec2 at((x + 0.5) * p.width / size, (y + 0.5) * p.height / size);
            const Vec3 c = colour_of(p, at);
            std::uint8_t* to = &out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size) +
                                              static_cast<std::size_t>(x))];
            for (int k = 0; k < 3; ++k) to[k] = static_cast<std::uint8_t>(std::lround(c[k]));
            to[3] = static_cast<std::uint8_t>(std::lround(colour_of(alpha, at)[0]));
        }
    });
    return out;
}

Result<ReadLayer> read_layer(const SkinLayer& layer, const std::string& tile, int size) {
    ReadLayer out{layer.id, {}, nullptr, layer.shown ? layer.amount : 0, layer.blend};
    const auto at = layer.tiles.find(tile);
    if (at == layer.tiles.end()) return out;
    const auto fits = [&](const std::shared_ptr<const TexelBlocks>& blocks) {
        return blocks->size() == size ? blocks : std::make_shared<const TexelBlocks>(blocks->resized(size));
    };
    if (at->second.picture) {
        auto read = decode_image(*at->second.picture);
        if (!read) return read.error();
        out.picture = TexelBlocks::of(resized(*read, size));
    }
    if (at->second.paint) {
        const auto paint = fits(at->second.paint);
        if (out.picture.size() == 0)
            out.picture = *paint;
        else
            put_over(out.picture, *paint);
    }
    if (at->second.mask) out.mask = fits(at->second.mask);
    return out;
}

Vec3 blended(LayerBlend blend, const Vec3& below, const Vec3& above, double alpha) {
    Vec3 out = above;
    switch (blend) {
        case LayerBlend::Over:
            break;
        case LayerBlend::Multiply:
            out = below.cwiseProduct(above);
            break;
        case LayerBlend::Screen:
            out = below + above - below.cwiseProduct(above);
            break;
        case LayerBlend::SoftLight:
            for (int k = 0; k < 3; ++k) out[k] = soft_light(below[k], above[k]);
            break;
        case LayerBlend::Tone:
            out = with_luma(above, luma(below));
            break;
        case LayerBlend::Light:
            out = with_luma(below, luma(above));
            break;
    }
    return (1 - alpha) * below + alpha * out;
}

void compose(const Pixels& base, const std::vector<ReadLayer>& layers, const TexelRect& part, Pixels& out) {
    const int size = base.width;
    const TexelRect r = part.within(size);
    if (r.empty()) return;
    tbb::parallel_for(r.top, r.bottom, [&](int y) {
        for (int x = r.left; x < r.right; ++x) {
            const std::size_t i =
                4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(size) + static_cast<std::size_t>(x));
            Vec3 c(base.rgba[i], base.rgba[i + 1], base.rgba[i + 2]);
            c /= 255;
            for (const ReadLayer& layer : layers) {
                if (layer.amount <= 0 || layer.picture.size() != size) continue;
                const TexelBlocks::Texel t = layer.picture.at(x, y);
                double alpha = layer.amount * t[3] / 255.0;
                if (layer.mask) alpha *= layer.mask->at(x, y)[0] / 255.0;
                if (alpha <= 0) continue;
                c = blended(layer.blend, c, Vec3(Vec3(t[0], t[1], t[2]) / 255), alpha);
            }
            for (std::size_t k = 0; k < 3; ++k)
                out.rgba[i + k] = static_cast<std::uint8_t>(
                    std::lround(255 * std::clamp(c[static_cast<Eigen::Index>(k)], 0.0, 1.0)));
            out.rgba[i + 3] = base.rgba[i + 3];
        }
    });
}

Result<Pixels> composed_tile(const Mesh& kit_mesh, const BakeSurface& base, const UvTile& tile,
                             const LayeredSkin& skin) {
    auto own = base_texels(kit_mesh, base, tile, skin.size);
    if (!own) return own.error();
    std::vector<ReadLayer> layers;
    for (const SkinLayer& layer : skin.layers) {
        if (!layer.shown || layer.amount <= 0 || !layer.tiles.contains(tile.name)) continue;
        auto read = read_layer(layer, tile.name, skin.size);
        if (!read) return read.error();
        layers.push_back(std::move(*read));
    }
    Pixels out = *own;
    compose(*own, layers, {0, 0, skin.size, skin.size}, out);
    return out;
}

Pixels between_stages(const Pixels& plain, const StageAmounts& stages) {
    Pixels out = plain;
    const auto row = static_cast<std::size_t>(4 * plain.width);
    tbb::parallel_for(0, plain.height, [&](int y) {
        for (std::size_t i = static_cast<std::size_t>(y) * row; i < static_cast<std::size_t>(y + 1) * row; ++i) {
            double value = plain.rgba[i];
            for (const auto& [stage, amount] : stages)
                value += std::clamp(amount, 0.0, 1.0) * (stage->rgba[i] - double{1} * plain.rgba[i]);
            out.rgba[i] = static_cast<std::uint8_t>(std::lround(std::clamp(value, 0.0, 255.0)));
        }
    });
    return out;
}

Result<std::vector<std::optional<Vec3>>> skin_logs(const Mesh& kit_mesh, const BakeSurface& base,
                                                   const LayeredSkin& skin) {
    std::vector<std::optional<Vec3>> out(base.positions.size());
    std::vector<int> count(out.size(), 0);
    LayeredSkin small = skin;
    small.size = std::min(skin.size, kLogsSize);
    for (const UvTile& tile : base.tiles) {
        const auto pixels = composed_tile(kit_mesh, base, tile, small);
        if (!pixels) return pixels.error();
        for (const Index t : tile.triangles) {
            if (base.part[t] != 0) continue;
            for (int k = 0; k < 3; ++k) {
                Vec3 shares = Vec3::Constant(0.2);
                shares[k] = 0.6;
                const Vec2 uv = shares[0] * base.uv[t][0] + shares[1] * base.uv[t][1] + shares[2] * base.uv[t][2];
                const Vec2 in(uv.x() - std::floor(uv.x()), uv.y() - std::floor(uv.y()));
                const Vec3 c = linear_between(*pixels, Vec2(in.x() * small.size, (1 - in.y()) * small.size), false);
                const Index v = base.triangles[t][static_cast<std::size_t>(k)];
                const Vec3 log = log_colour(c);
                out[v] = out[v] ? Vec3(*out[v] + log) : log;
                ++count[v];
            }
        }
    }
    for (std::size_t v = 0; v < out.size(); ++v) {
        if (out[v]) *out[v] /= count[v];
    }
    return out;
}

}  // namespace veld
