#include "app/stations/skin/shown_skin.h"

#include <QPainter>
#include <cmath>

#include "core/linalg/statistics.h"
#include "core/skin/texels.h"

namespace veld {
namespace {

constexpr int kPlainSize = 1024;        // texels a side where there is no skin yet
constexpr int kMostLookedAt = 2048;     // texels a side of maps that are only looked at
constexpr double kMostWhiteMm = 5;      // heights beyond are white
constexpr std::size_t kEachHeight = 7;  // texels of which the scale is told
constexpr int kSquares = 16;
constexpr double kTint = 0.55;
constexpr double kEdgeShare = 900;  // texels a side for one of an edge's width
constexpr std::uint8_t kGrey = 118;

QImage image_of(const Pixels& p) {
    return QImage(p.rgba.data(), p.width, p.height, 4 * p.width, QImage::Format_RGBA8888).copy();
}

Pixels grey(int size) {
    Pixels out;
    out.width = out.height = size;
    out.rgba.assign(std::size_t{4} * static_cast<std::size_t>(size) * static_cast<std::size_t>(size), kGrey);
    for (std::size_t i = 3; i < out.rgba.size(); i += 4) out.rgba[i] = 255;
    return out;
}

QImage checker(int size) {
    QImage out(size, size, QImage::Format_RGBA8888);
    out.fill(QColor(214, 208, 200));
    QPainter painter(&out);
    const double side = static_cast<double>(size) / kSquares;
    for (int y = 0; y < kSquares; ++y) {
        for (int x = y % 2; x < kSquares; x += 2)
            painter.fillRect(QRectF(x * side, y * side, side, side), QColor(96, 104, 116));
    }
    return out;
}

QImage origins(const Pixels& seen, const SkinLayer* layer, const std::string& tile) {
    Pixels out = seen;
    const auto at = layer ? layer->tiles.find(tile) : std::map<std::string, LayerTile>::const_iterator{};
    if (!layer || at == layer->tiles.end() || !at->second.found) return image_of(out);
    const auto found = decode_image(*at->second.found);
    if (!found || found->width <= 0) return image_of(out);
    for (int y = 0; y < out.height; ++y) {
        const int j = y * found->height / out.height;
        for (int x = 0; x < out.width; ++x) {
            const int i = x * found->width / out.width;
            const std::uint8_t of =
                found->rgba[4 * (static_cast<std::size_t>(j) * static_cast<std::size_t>(found->width) +
                                 static_cast<std::size_t>(i))];
            if (of < static_cast<std::uint8_t>(TexelOrigin::Mirrored) || of >= std::size(kOriginColours)) continue;
            const Colour& c = kOriginColours[of];
            std::uint8_t* q = &out.rgba[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(out.width) +
                                             static_cast<std::size_t>(x))];
            const std::uint8_t tint[] = {c.r, c.g, c.b};
            for (std::size_t k = 0; k < 3; ++k) q[k] = static_cast<std::uint8_t>((1 - kTint) * q[k] + kTint * tint[k]);
        }
    }
    return image_of(out);
}

// Pictures that were read before are not read again: they are shared between skins and never change.
struct Reader {
    const ShownSkin* before;
    const LayeredSkin* before_skin;

    Result<ReadLayer> read(const SkinLayer& layer, const std::string& tile, int size) const {
        const SkinLayer* was = before_skin && before_skin->size == size ? before_skin->layer(layer.id) : nullptr;
        const auto now = layer.tiles.find(tile);
        if (was && now != layer.tiles.end()) {
            const auto then = was->tiles.find(tile);
            const auto known = before->tiles.find(tile);
            if (then != was->tiles.end() && known != before->tiles.end() &&
                then->second.picture == now->second.picture && then->second.paint == now->second.paint) {
                for (const ReadLayer& one : known->second.layers) {
                    if (one.id != layer.id || one.picture.size() != size) continue;
                    ReadLayer out = one;
                    out.amount = layer.shown ? layer.amount : 0, out.blend = layer.blend;
                    out.mask = now->second.mask;
                    if (out.mask && out.mask->size() != size)
                        out.mask = std::make_shared<const TexelBlocks>(out.mask->resized(size));
                    return out;
                }
            }
        }
        return read_layer(layer, tile, size);
    }
};

// The map that the look needs, of each tile: as it was, or baked.
Status add_map(ShownSkin& out, const ShownSkin* before, SkinMap map, const Progress& progress) {
    if (before && before->same_relief(out) && before->skin && out.skin && before->skin->size == out.skin->size &&
        skin_only(*before->skin) == skin_only(*out.skin)) {
        bool all = true;
        for (auto& [name, tile] : out.tiles) {
            const auto was = before->tiles.find(name);
            all = all && was != before->tiles.end() && was->second.maps.contains(map);
            if (was != before->tiles.end()) tile.maps = was->second.maps;
        }
        out.white_mm = before->white_mm;
        if (all) return Done{};
    }
    BakeSettings settings;
    settings.size = std::min(out.skin ? out.skin->size : kPlainSize, kMostLookedAt), settings.samples = 1;
    settings.maps = {map};
    std::map<std::string, MapImage> heights;
    const auto report = bake_relief(
        *out.relief, 0, settings, out.skin && skin_only(*out.skin),
        [&](BakedTile&& baked) -> Status {
            MapImage& image = baked.maps.at(map);
            if (map == SkinMap::Displacement)
                heights[baked.tile.name] = std::move(image);
            else
                out.tiles[baked.tile.name].maps[map] = image_of(map_pixels(image));
            return Done{};
        },
        progress);
    if (!report) return report.error();
    // one scale for all tiles, that most of the relief lies in
    std::vector<double> off;
    for (const auto& [name, image] : heights) {
        for (std::size_t i = 0; i < image.real.size(); i += kEachHeight) {
            if (image.real[i] != 0) off.push_back(std::abs(static_cast<double>(image.real[i])));
        }
    }
    if (!off.empty()) out.white_mm = std::clamp(2 * quantile(off, 0.95), 0.1, kMostWhiteMm);
    for (const auto& [name, image] : heights) {
        out.tiles[name].maps[map] = image_of(map_pixels(image, 0, out.white_mm));
    }
    return Done{};
}

}  // namespace

std::optional<SkinMap> map_of(SkinLook look) {
    switch (look) {
        case SkinLook::Relief:
        case SkinLook::SkinInRelief:
            return SkinMap::Normal;
        case SkinLook::Heights:
            return SkinMap::Displacement;
        case SkinLook::Occlusion:
            return SkinMap::Occlusion;
        case SkinLook::Curvature:
            return SkinMap::Curvature;
        case SkinLook::Cavity:
            return SkinMap::Cavity;
        default:
            return {};
    }
}

QImage ShownSkin::normals(const std::string& name) const {
    if (map_of(look) != SkinMap::Normal) return {};
    const auto of = tiles.find(name);
    if (of == tiles.end()) return {};
    const auto at = of->second.maps.find(SkinMap::Normal);
    return at == of->second.maps.end() ? QImage() : at->second;
}

const UvTile* ShownSkin::tile(const std::string& name) const {
    if (!surface) return nullptr;
    for (const UvTile& tile : surface->surface().tiles) {
        if (tile.name == name) return &tile;
    }
    return nullptr;
}

Result<std::shared_ptr<ShownSkin>> compose_skin(const ShownSkin& asked, std::shared_ptr<const ShownSkin> before,
                                                const Progress& progress) {
    auto out = std::make_shared<ShownSkin>();
    out->kit = asked.kit, out->shape = asked.shape, out->skin = asked.skin, out->look = asked.look;
    out->layer = asked.layer, out->stage = asked.stage, out->relief = asked.relief;
    if (before && before->kit != asked.kit) before.reset();
    if (before && before->shape == asked.shape) out->surface = before->surface;
    if (!out->surface) {
        auto surface = bake_surface(*asked.kit, *asked.shape);
        if (!surface) return surface.error();
        out->surface = std::make_shared<const PaintSurface>(std::move(*surface));
    }
    const int size = asked.skin ? asked.skin->size : kPlainSize;
    const LayeredSkin now = asked.skin ? at_stage(*asked.skin, asked.stage) : LayeredSkin{};
    const SkinLayer* selected = asked.skin ? asked.skin->layer(asked.layer) : nullptr;
    const Reader reader{before.get(), before ? before->skin.get() : nullptr};
    for (const UvTile& tile : out->surface->surface().tiles) {
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        ShownSkin::Tile& to = out->tiles[tile.name];
        const auto was =
            before ? before->tiles.find(tile.name) : std::map<std::string, ShownSkin::Tile>::const_iterator{};
        if (before && was != before->tiles.end() && was->second.base && was->second.base->width == size) {
            to.base = was->second.base;
        } else {
            auto base = base_texels(asked.kit->mesh, out->surface->surface(), tile, size);
            if (!base) return base.error();
            to.base = std::make_shared<const Pixels>(std::move(*base));
        }
        for (const SkinLayer& layer : now.layers) {
            auto read = reader.read(layer, tile.name, size);
            if (!read) return read.error();
            to.layers.push_back(std::move(*read));
        }
        Pixels seen = *to.base;
        compose(*to.base, to.layers, {0, 0, size, size}, seen);
        if (asked.look == SkinLook::Skin || map_of(asked.look)) {
            to.image = image_of(seen);
        } else if (asked.look == SkinLook::Checker) {
            to.image = checker(size);
        } else if (asked.look == SkinLook::Origin) {
            to.image = origins(seen, selected, tile.name);
        } else {
            Pixels alone = grey(size);
            std::vector<ReadLayer> one;
            for (const ReadLayer& layer : to.layers) {
                if (layer.id == asked.layer) one.push_back(layer), one.back().amount = 1;
            }
            compose(grey(size), one, {0, 0, size, size}, alone);
            to.image = image_of(alone);
        }
        out->seen[tile.name] = std::make_shared<const Pixels>(std::move(seen));
    }
    if (const auto map = map_of(asked.look)) {
        if (!asked.relief)
            return Error{ErrorCode::BadInput,
                         "Relief is baked from a scan or sculpt, and the current fit was made from none."};
        if (auto ok = add_map(*out, before.get(), *map, progress); !ok) return ok.error();
        for (auto& [name, tile] : out->tiles) {
            if (*map != SkinMap::Normal && tile.maps.contains(*map)) tile.image = tile.maps.at(*map);
        }
    }
    return out;
}

QImage uv_edges(const BakeSurface& surface, const UvTile& tile, int size) {
    QImage out(size, size, QImage::Format_RGBA8888);
    out.fill(Qt::transparent);
    QPainter painter(&out);
    painter.setRenderHint(QPainter::Antialiasing, size >= 1024);
    painter.setPen(QPen(QColor(255, 255, 255, 120), std::max(1.0, size / kEdgeShare)));
    const int number = tile.number - 1001;
    const QPointF origin(number % 10, number / 10);
    for (const Index t : tile.triangles) {
        for (std::size_t k = 0; k < 3; ++k) {
            const Index mate = surface.mate[t][k];
            if (mate != kNone && mate / 3 < t && continues(surface, t, k)) continue;  // drawn by the other side
            const Vec2 &a = surface.uv[t][k], &b = surface.uv[t][(k + 1) % 3];
            const auto at = [&](const Vec2& uv) {
                return QPointF(size * (uv.x() - origin.x()), size * (1 - (uv.y() - origin.y())));
            };
            painter.drawLine(at(a), at(b));
        }
    }
    return out;
}

}  // namespace veld
