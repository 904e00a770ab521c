#include "core/project/skin_out.h"

#include <algorithm>
#include <filesystem>

#include "core/kit/base_kit.h"
#include "core/kit/original.h"
#include "core/kit/write_kit.h"
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

namespace {

// The skin in one stage: its own maps, under its own name.
Result<std::vector<std::string>> write_stage(const SkinOut& what, const BakeSurface& base, const Progress& progress) {
    MapWriter writer(what.files, base.tiles);
    if (auto ok = writer.prepare(); !ok) return ok.error();
    std::vector<SkinMap> baked = what.maps;
    if (std::erase(baked, SkinMap::Colour) > 0) {
        if (auto ok = write_colours(what, base, writer, progress); !ok) return writer.stopped(ok.error());
    }
    BakeReport report;
    if (!baked.empty()) {
        if (!what.relief)
            return Error{ErrorCode::BadInput,
                         "Only the colours can be written: the other maps are baked from a scan or sculpt, and the "
                         "current fit was made from none."};
        BakeSettings settings;
        settings.size = what.skin->size, settings.maps = baked;
        auto done = bake_relief(
            *what.relief, what.level, settings, skin_only(*what.skin),
            [&](BakedTile&& tile) { return writer.write(tile); }, progress);
        if (!done) return writer.stopped(done.error());
        report = std::move(*done);
    } else {
        for (const SkinLayer& layer : what.skin->layers) report.seen = std::max(report.seen, layer.seen);
    }
    if (auto ok = writer.write_about(report); !ok) return writer.stopped(ok.error());
    return writer.written();
}

// What goes out for a stage; nothing: none of the maps that are wanted.
std::optional<SkinOut> stage_out(const SkinOut& what, const SkinStage& stage) {
    SkinOut out = what;
    out.stages = false, out.files.name += "_" + stage.name;
    out.skin = std::make_shared<const LayeredSkin>(at_stage(*what.skin, stage.name));
    const auto relief = what.stage_relief.find(stage.name);
    if (relief != what.stage_relief.end())
        out.relief = relief->second;
    else
        std::erase_if(out.maps, [](SkinMap m) { return m != SkinMap::Colour; });
    return out.maps.empty() ? std::nullopt : std::optional(std::move(out));
}

}  // namespace

SkinOut skin_out_of(const ProjectState& state, SubjectId subject, std::shared_ptr<const LayeredSkin> skin) {
    SkinOut out;
    out.kit = state.kit, out.skin = std::move(skin);
    if (auto relief = baking_of(state, subject)) out.relief = std::move(*relief);
    for (const SkinStage& stage : out.skin->stages) {
        const FitRecord* fit = stage.fit ? find_fit(state, stage.fit) : nullptr;
        if (!fit) continue;
        if (auto relief = baking_of_fit(state, *fit)) out.stage_relief.emplace(stage.name, std::move(*relief));
    }
    return out;
}

Result<std::vector<std::string>> write_skin_maps(const SkinOut& what, const Progress& progress) {
    const auto base = bake_surface(*what.kit, what.kit->mesh.positions);
    if (!base) return base.error();
    const bool stages = what.stages && !what.skin->stages.empty();
    if (stages && what.files.pattern.find("{name}") == std::string::npos)
        return Error{ErrorCode::BadInput, "The pattern '" + what.files.pattern +
                                              "' gives every stage the same names. Put {name} into it, or leave the "
                                              "stages out."};
    SkinOut plain = what;
    plain.skin = std::make_shared<const LayeredSkin>(at_stage(*what.skin, {}));
    auto out = write_stage(plain, *base, progress);
    for (std::size_t i = 0; stages && out && i < what.skin->stages.size(); ++i) {
        const auto of = stage_out(what, what.skin->stages[i]);
        if (!of) continue;
        auto more = write_stage(*of, *base, progress);
        if (!more) {
            Error error = more.error();
            error.message += " It is of the stage '" + what.skin->stages[i].name + "'; before it " +
                             std::to_string(out->size()) + " files were written.";
            return error;
        }
        out->insert(out->end(), more->begin(), more->end());
    }
    return out;
}

Result<BaseKit> dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const Progress& progress) {
    const auto base = bake_surface(kit, kit.mesh.positions);
    if (!base) return base.error();
    const LayeredSkin plain = at_stage(skin, {});
    std::vector<Image> pictures(base->tiles.size());
    for (std::size_t i = 0; i < pictures.size(); ++i) {
        const UvTile& tile = base->tiles[i];
        if (!on_tile(plain, tile.name)) continue;
        progress.say(0.1, "Colours of tile " + tile.name);
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        auto pixels = composed_tile(kit.mesh, *base, tile, plain);
        if (!pixels) return pixels.error();
        pictures[i] = {"skin_" + tile.name + ".png", "image/png", encode_png(*pixels)};
    }
    BaseKit out = kit;
    out.mesh = dressed_mesh(kit.mesh, *base, pictures);
    return out;
}

Status write_dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const std::string& folder,
                         const Progress& progress) {
    std::error_code none;
    if (std::filesystem::equivalent(kit.folder, folder, none))
        return Error{ErrorCode::BadInput, "'" + folder + "' is the kit of this project itself. Name another folder."};
    const auto dressed = dressed_kit(kit, skin, progress);
    if (!dressed) return dressed.error();
    std::vector<std::string> originals;
    for (const std::string& name : kit_originals(kit))
        originals.push_back((std::filesystem::path(kit.folder) / name).string());
    return write_base_kit(*dressed, folder, originals);
}

}  // namespace veld
