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

// The skin without a stage, then its stages when they are wanted.
Result<std::vector<std::string>> write_with_stages(const SkinOut& what, bool relief, const BakeSurface& base,
                                                   const Progress& progress) {
    std::vector<std::string> out;
    const auto more = [&](const SkinOut& one) -> Status {
        if (one.maps.empty()) return Done{};
        auto files = write_stage(one, base, progress);
        if (!files) return files.error();
        out.insert(out.end(), files->begin(), files->end());
        return Done{};
    };
    SkinOut plain = what;
    plain.skin = std::make_shared<const LayeredSkin>(at_stage(*what.skin, {}));
    if (!relief) std::erase_if(plain.maps, [](SkinMap m) { return m != SkinMap::Colour; });
    if (auto ok = more(plain); !ok) return ok.error();
    for (std::size_t i = 0; what.stages && i < what.skin->stages.size(); ++i) {
        const auto of = stage_out(what, what.skin->stages[i]);
        if (!of) continue;
        if (auto ok = more(*of); !ok) {
            Error error = ok.error();
            error.message += " It is of the stage '" + what.skin->stages[i].name + "'; before it " +
                             std::to_string(out.size()) + " files were written.";
            return error;
        }
    }
    return out;
}

// Pictures of those tiles, in the tiles' order; the others are empty.
Result<std::vector<Image>> pictures_of(const BaseKit& kit, const BakeSurface& base, const LayeredSkin& skin,
                                       const std::vector<char>& tiles, const Progress& progress) {
    std::vector<Image> out(base.tiles.size());
    for (std::size_t i = 0; i < out.size(); ++i) {
        const UvTile& tile = base.tiles[i];
        if (!tiles[i]) continue;
        progress.say(0.1, "Colours of tile " + tile.name);
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
        auto pixels = composed_tile(kit.mesh, base, tile, skin);
        if (!pixels) return pixels.error();
        out[i] = {"skin_" + tile.name + ".png", "image/png", encode_png(*pixels)};
    }
    return out;
}

void add_tiles_of(const BakeSurface& base, const LayeredSkin& skin, std::vector<char>& tiles) {
    tiles.resize(base.tiles.size(), 0);
    for (std::size_t i = 0; i < tiles.size(); ++i) tiles[i] |= on_tile(skin, base.tiles[i].name) ? 1 : 0;
}

// A skin in one stage, as a GLB shows it.
struct WornSkin {
    std::string name;
    LayeredSkin skin;
    const FitBaking* relief = nullptr;
};
void add_worn(const SkinOut& of, const std::string& name, bool stages, std::vector<WornSkin>& out) {
    out.push_back({name, at_stage(*of.skin, {}), of.relief ? &*of.relief : nullptr});
    for (std::size_t i = 0; stages && i < of.skin->stages.size(); ++i) {
        const std::string& stage = of.skin->stages[i].name;
        const auto relief = of.stage_relief.find(stage);
        out.push_back({name.empty() ? stage : name + "_" + stage, at_stage(*of.skin, stage),
                       relief == of.stage_relief.end() ? nullptr : &relief->second});
    }
}

BaseKit in_pictures(const BaseKit& kit, const BakeSurface& base, const std::vector<Image>& pictures) {
    BaseKit out = kit;
    out.mesh = dressed_mesh(kit.mesh, base, pictures);
    return out;
}

// Normals and occlusion of the fit's source into what the tiles' materials show.
Status add_relief(const FitBaking& relief, const SkinOut& what, std::map<std::string, GlbPictures>& pictures,
                  const Progress& progress) {
    BakeSettings settings;
    settings.size = what.skin->size, settings.maps.clear();
    for (const SkinMap map : {SkinMap::Normal, SkinMap::Occlusion}) {
        if (std::find(what.maps.begin(), what.maps.end(), map) != what.maps.end()) settings.maps.push_back(map);
    }
    if (settings.maps.empty()) return Done{};
    const auto take = [&](BakedTile&& tile) -> Status {
        GlbPictures& of = pictures["skin_" + tile.tile.name];
        for (const auto& [map, image] : tile.maps)
            (map == SkinMap::Normal ? of.normal : of.occlusion) = {
                std::string(skin_map_name(map)) + "_" + tile.tile.name + ".png", "image/png",
                encode_png(map_pixels(image))};
        return Done{};
    };
    auto done = bake_relief(relief, 0, settings, skin_only(*what.skin), take, progress);
    return done ? Status(Done{}) : Status(done.error());
}

SkinOut with_stages_of(const ProjectState& state, SubjectId subject, std::shared_ptr<const LayeredSkin> skin) {
    SkinOut out;
    out.kit = state.kit, out.skin = std::move(skin);
    out.files.name = find_subject(state, subject)->name + "_" + out.skin->name;
    for (const SkinStage& stage : out.skin->stages) {
        const FitRecord* fit = stage.fit ? find_fit(state, stage.fit) : nullptr;
        if (!fit) continue;
        if (auto relief = baking_of_fit(state, *fit)) out.stage_relief.emplace(stage.name, std::move(*relief));
    }
    return out;
}

}  // namespace

SkinOut skin_out_of(const ProjectState& state, SubjectId subject, std::shared_ptr<const LayeredSkin> skin) {
    SkinOut out = with_stages_of(state, subject, std::move(skin));
    if (auto relief = baking_of(state, subject)) out.relief = std::move(*relief);
    for (const auto& other : find_subject(state, subject)->skins) {
        if (other->id != out.skin->id) out.others.push_back(with_stages_of(state, subject, other));
    }
    return out;
}

Result<std::vector<std::string>> write_skin_maps(const SkinOut& what, const Progress& progress) {
    const auto base = bake_surface(*what.kit, what.kit->mesh.positions);
    if (!base) return base.error();
    const bool stages = what.stages && !what.skin->stages.empty(), others = what.all_skins && !what.others.empty();
    if ((stages || others) && what.files.pattern.find("{name}") == std::string::npos)
        return Error{ErrorCode::BadInput, "The pattern '" + what.files.pattern + "' gives every " +
                                              (stages ? "stage" : "skin") +
                                              " the same names. Put {name} into it, or leave the others out."};
    auto out = write_with_stages(what, true, *base, progress);
    for (std::size_t i = 0; others && out && i < what.others.size(); ++i) {
        SkinOut other = what.others[i];
        other.maps = what.maps, other.level = what.level, other.stages = what.stages;
        const std::string name = other.files.name;
        other.files = what.files, other.files.name = name;
        auto more = write_with_stages(other, false, *base, progress);
        if (!more) {
            Error error = more.error();
            error.message += " It is of the skin '" + other.skin->name + "'; before it " +
                             std::to_string(out->size()) + " files were written.";
            return error;
        }
        out->insert(out->end(), more->begin(), more->end());
    }
    return out;
}

Status write_skin_glb(const SkinOut& what, const std::vector<MorphAmount>& morphs, const std::string& path,
                      const Progress& progress) {
    const auto base = bake_surface(*what.kit, what.kit->mesh.positions);
    if (!base) return base.error();
    std::vector<WornSkin> worn;
    add_worn(what, {}, what.stages, worn);
    for (std::size_t i = 0; what.all_skins && i < what.others.size(); ++i)
        add_worn(what.others[i], what.others[i].skin->name, what.stages, worn);
    // what any of them is on has a material of its own
    std::vector<char> tiles;
    for (const WornSkin& w : worn) add_tiles_of(*base, w.skin, tiles);
    std::vector<Image> plain;
    GlbSkin skin;
    for (std::size_t k = 0; k < worn.size(); ++k) {
        auto shown = pictures_of(*what.kit, *base, worn[k].skin, tiles, progress);
        if (!shown) return shown.error();
        std::map<std::string, GlbPictures> pictures;
        for (std::size_t i = 0; k > 0 && i < plain.size(); ++i) {
            if ((*shown)[i].bytes != plain[i].bytes)
                pictures["skin_" + base->tiles[i].name].colour = std::move((*shown)[i]);
        }
        if (worn[k].relief) {
            if (auto ok = add_relief(*worn[k].relief, what, pictures, progress); !ok) return ok;
        }
        if (k > 0)
            skin.variants.push_back({worn[k].name, std::move(pictures)});
        else
            plain = std::move(*shown), skin.pictures = std::move(pictures);
    }
    return export_worn_glb(in_pictures(*what.kit, *base, plain), morphs, skin, path);
}

Result<BaseKit> dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const Progress& progress) {
    const auto base = bake_surface(kit, kit.mesh.positions);
    if (!base) return base.error();
    const LayeredSkin plain = at_stage(skin, {});
    std::vector<char> tiles;
    add_tiles_of(*base, plain, tiles);
    const auto pictures = pictures_of(kit, *base, plain, tiles, progress);
    if (!pictures) return pictures.error();
    return in_pictures(kit, *base, *pictures);
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
