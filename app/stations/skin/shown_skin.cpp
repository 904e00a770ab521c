#include "app/stations/skin/shown_skin.h"

#include <QPainter>

#include "core/skin/texels.h"

namespace veld {
namespace {

constexpr int kPlainSize = 1024;  // texels a side where there is no skin yet
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

}  // namespace

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
    out->layer = asked.layer;
    if (before && before->kit != asked.kit) before.reset();
    if (before && before->shape == asked.shape) out->surface = before->surface;
    if (!out->surface) {
        auto surface = bake_surface(*asked.kit, *asked.shape);
        if (!surface) return surface.error();
        out->surface = std::make_shared<const PaintSurface>(std::move(*surface));
    }
    const int size = asked.skin ? asked.skin->size : kPlainSize;
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
        if (asked.skin) {
            for (const SkinLayer& layer : asked.skin->layers) {
                auto read = reader.read(layer, tile.name, size);
                if (!read) return read.error();
                to.layers.push_back(std::move(*read));
            }
        }
        Pixels seen = *to.base;
        compose(*to.base, to.layers, {0, 0, size, size}, seen);
        if (asked.look == SkinLook::Skin) {
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
