#include "core/project/skin_out.h"

#include <algorithm>

#include "core/kit/base_kit.h"
#include "core/skin/compose.h"
#include "core/skin/dressed.h"

namespace veld {
namespace {

MapImage colours_of(const Pixels& pixels) {
    MapImage out;
    out.width = pixels.width, out.height = pixels.height, out.channels = 3, out.srgb = true;
    out.unit.resize(3 * out.texels());
    for (std::size_t i = 0; i < out.texels(); ++i) {
        for (std::size_t k = 0; k < 3; ++k)
            out.unit[3 * i + k] = static_cast<std::uint16_t>(257 * pixels.rgba[4 * i + k]);
    }
    return out;
}

bool on_tile(const LayeredSkin& skin, const std::string& tile) {
    return std::any_of(skin.layers.begin(), skin.layers.end(),
                       [&](const SkinLayer& l) { return l.shown && l.amount > 0 && l.tiles.contains(tile); });
}

Status write_colours(const SkinOut& what, const BakeSurface& base, MapWriter& writer, const Progress& progress) {
    for (const UvTile& tile : base.tiles) {
        progress.say(0.05, "Colours of tile " + tile.name);
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        auto pixels = composed_tile(what.kit->mesh, base, tile, *what.skin);
        if (!pixels) return pixels.error();
        BakedTile out{tile, {}, {}};
        out.maps.emplace(SkinMap::Colour, colours_of(*pixels));
        if (auto ok = writer.write(out); !ok) return ok;
    }
    return Done{};
}

}  // namespace

Result<std::vector<std::string>> write_skin_maps(const SkinOut& what, const Progress& progress) {
    const auto base = bake_surface(*what.kit, what.kit->mesh.positions);
    if (!base) return base.error();
    MapWriter writer(what.files, base->tiles);
    if (auto ok = writer.prepare(); !ok) return ok.error();
    std::vector<SkinMap> baked = what.maps;
    const bool colours = std::erase(baked, SkinMap::Colour) > 0;
    if (colours) {
        if (auto ok = write_colours(what, *base, writer, progress); !ok) return writer.stopped(ok.error());
    }
    BakeReport report;
    if (!baked.empty()) {
        if (!what.relief)
            return Error{ErrorCode::BadInput,
                         "Only the colours can be written: the other maps are baked from a scan or sculpt, and the "
                         "current fit was made from none."};
        BakeSettings settings;
        settings.size = what.skin->size, settings.maps = baked;
        auto done = bake_fit(
            *what.relief, what.level, settings, [&](BakedTile&& tile) { return writer.write(tile); }, progress);
        if (!done) return writer.stopped(done.error());
        report = std::move(*done);
    } else {
        for (const SkinLayer& layer : what.skin->layers) report.seen = std::max(report.seen, layer.seen);
    }
    if (auto ok = writer.write_about(report); !ok) return writer.stopped(ok.error());
    return writer.written();
}

Result<BaseKit> dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const Progress& progress) {
    const auto base = bake_surface(kit, kit.mesh.positions);
    if (!base) return base.error();
    std::vector<Image> pictures(base->tiles.size());
    for (std::size_t i = 0; i < pictures.size(); ++i) {
        const UvTile& tile = base->tiles[i];
        if (!on_tile(skin, tile.name)) continue;
        progress.say(0.1, "Colours of tile " + tile.name);
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        auto pixels = composed_tile(kit.mesh, *base, tile, skin);
        if (!pixels) return pixels.error();
        pictures[i] = {skin.name + " " + tile.name + ".png", "image/png", encode_png(*pixels)};
    }
    BaseKit out = kit;
    out.mesh = dressed_mesh(kit.mesh, *base, pictures);
    return out;
}

}  // namespace veld
