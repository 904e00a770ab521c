#include "core/project/layered_skins.h"

#include <algorithm>

#include "core/base/cache.h"
#include "core/kit/base_kit.h"
#include "core/photo/look_at_photos.h"
#include "core/project/records/photo_record.h"
#include "core/project/skins.h"
#include "core/skin/compose.h"
#include "core/skin/photo_colours.h"
#include "core/skin/region_mask.h"

namespace veld {
namespace {

constexpr const char* kPng = "image/png";

std::vector<std::string> skin_names(const Subject& subject, SkinId but) {
    std::vector<std::string> out;
    for (const auto& skin : subject.skins) {
        if (skin->id != but) out.push_back(skin->name);
    }
    return out;
}

TexelOrigin origin_of(std::uint8_t found) {
    switch (static_cast<Found>(found)) {
        case Found::Nothing:
            return TexelOrigin::None;
        case Found::Along:
        case Found::Closest:
            return TexelOrigin::Source;
        case Found::Missed:
            return TexelOrigin::Base;
        case Found::WrongSheet:
            return TexelOrigin::Wrong;
        case Found::Mirrored:
            return TexelOrigin::Mirrored;
    }
    return TexelOrigin::None;
}

// The colours with alpha 0 where the bake put nothing, and where they come from.
void keep_tile(const BakedTile& baked, LayerTile& to) {
    Pixels colours = map_pixels(baked.maps.at(SkinMap::Colour)), found = colours;
    for (std::size_t i = 0; i < baked.found.size(); ++i) {
        std::uint8_t* c = &colours.rgba[4 * i];
        const bool nothing = static_cast<Found>(baked.found[i]) == Found::Nothing && c[0] + c[1] + c[2] == 0;
        c[3] = nothing ? 0 : 255;
        std::uint8_t* f = &found.rgba[4 * i];
        f[0] = static_cast<std::uint8_t>(origin_of(baked.found[i])), f[1] = f[2] = 0, f[3] = 255;
    }
    to.picture = std::make_shared<Image>(Image{"picture.png", kPng, encode_png(colours)});
    to.found = std::make_shared<Image>(Image{"found.png", kPng, encode_png(found)});
}

std::vector<LayerRegion> regions_of(const BakeReport& report) {
    std::vector<LayerRegion> out;
    for (const RegionBaked& r : report.regions) {
        const double all = r.texels, found = r.texels - r.missed - r.wrong - r.mirrored;
        if (!is_reached(r)) continue;
        out.push_back({r.region, found / all, r.mirrored / all, r.wrong / all, 0, SkinHalf::Both});
        for (const HalfFigures& half : report.halves) {
            const bool of =
                r.region == half.region || r.region == half.region + "_l" || r.region == half.region + "_r";
            if (of) out.back().better = better_half(half);
        }
        for (const RegionReach& reach : report.reaches) {
            if (reach.region == r.region) out.back().reach_mm = reach.reach_mm;
        }
    }
    return out;
}

BakeSettings settings_of(const LayerRecipe& recipe, int size) {
    BakeSettings out;
    out.size = size, out.maps = {SkinMap::Colour};
    out.light_out = recipe.light_out, out.shine_out = recipe.shine_out, out.tone = recipe.tone;
    out.colours_tell = recipe.leave_out_not_skin, out.keep_brows = recipe.keep_brows;
    out.fill_mirrored = recipe.fill_mirrored, out.half = recipe.half, out.own_grain = recipe.own_grain;
    if (recipe.tone_like.colour) {
        const Colour& c = *recipe.tone_like.colour;
        out.face_tone = Vec3(srgb_to_linear(c.r / 255.0), srgb_to_linear(c.g / 255.0), srgb_to_linear(c.b / 255.0));
    }
    return out;
}

Result<BakeReport> bake_of_photos(const LayerBaking& what, const BakeSettings& settings,
                                  const std::function<Status(BakedTile&&)>& take, const Progress& progress) {
    LookOptions options;
    options.find = false;
    const auto looked = look_at_photos(*what.kit, *what.photos, what.marks, options, progress);
    if (!looked) return looked.error();
    return bake_photos(*what.kit, *what.fit.positions, skin_photos(*looked, what.fit.photo->cameras()), settings, take,
                       progress);
}

}  // namespace

std::shared_ptr<const LayeredSkin> find_skin(const ProjectState& state, SkinId id) {
    for (const Subject& subject : state.subjects) {
        for (const auto& skin : subject.skins) {
            if (skin->id == id) return skin;
        }
    }
    return nullptr;
}

bool put_skin(ProjectState& state, std::shared_ptr<const LayeredSkin> skin) {
    for (Subject& subject : state.subjects) {
        for (auto& at : subject.skins) {
            if (at->id != skin->id) continue;
            const std::string name = free_name(skin->name, skin_names(subject, skin->id));
            if (name != skin->name) {
                auto renamed = std::make_shared<LayeredSkin>(*skin);
                renamed->name = name, skin = std::move(renamed);
            }
            at = std::move(skin);
            return true;
        }
    }
    return false;
}

bool add_skin(ProjectState& state, SubjectId id, LayeredSkin skin) {
    Subject* subject = find_subject(state, id);
    if (!subject) return false;
    skin.name = free_name(skin.name, skin_names(*subject, {}));
    subject->skins.push_back(std::make_shared<const LayeredSkin>(std::move(skin)));
    subject->current_skin = static_cast<int>(subject->skins.size()) - 1;
    return true;
}

bool remove_skin(ProjectState& state, SkinId id) {
    for (Subject& subject : state.subjects) {
        const auto at =
            std::find_if(subject.skins.begin(), subject.skins.end(), [&](const auto& skin) { return skin->id == id; });
        if (at == subject.skins.end()) continue;
        const auto place = static_cast<int>(at - subject.skins.begin());
        subject.skins.erase(at);
        if (subject.current_skin >= place && subject.current_skin > 0) --subject.current_skin;
        return true;
    }
    return false;
}

Result<SkinLayer> layer_of_fit(const ProjectState& state, SubjectId id) {
    const Subject* subject = find_subject(state, id);
    if (!subject) return Error{ErrorCode::Gone, "The subject is no longer there."};
    const FitRecord* fit = subject->fit();
    if (!fit)
        return Error{ErrorCode::BadInput,
                     "'" + subject->name + "' has no fit to bake through. Fit the base to a source first."};
    if (!fit->source_id && !fit->photo)
        return Error{ErrorCode::BadInput, "'" + fit->name +
                                              "' was made from neither a scan nor photographs; there is no skin to "
                                              "bake. Make another fit the current one."};
    SkinLayer out;
    out.from = fit->photo ? LayerFrom::Photos : LayerFrom::Scan;
    out.name = fit->source.empty() ? fit->name : fit->source;
    out.fit = fit->id;
    return out;
}

std::string shape_hash(const Points& shape) {
    CacheKey key;
    key.mix(shape.data(), shape.size() * sizeof(Vec3));
    return id_text(key.value());
}

const SkinLayer* layer_through(const Subject& subject, FitId fit) {
    const auto skin = subject.skin();
    if (!skin) return nullptr;
    const auto at = std::find_if(skin->layers.begin(), skin->layers.end(),
                                 [&](const SkinLayer& l) { return is_baked(l.from) && l.fit == fit; });
    return at == skin->layers.end() ? nullptr : &*at;
}

bool is_old(const ProjectState& state, const SkinLayer& layer) {
    if (!is_baked(layer.from)) return false;
    if (layer.baked_for.empty()) return true;
    const FitRecord* fit = find_fit(state, layer.fit);
    return fit && shape_hash(*fit->positions) != layer.baked_for;
}

Result<LayerBaking> layer_baking(const ProjectState& state, const SkinLayer& layer, int size) {
    const FitRecord* fit = find_fit(state, layer.fit);
    if (!fit) return Error{ErrorCode::Gone, "The fit that '" + layer.name + "' is baked through is no longer there."};
    LayerBaking out{state.kit, *fit, {}, nullptr, {}, layer, nullptr, size};
    if (layer.recipe.tone > 0 && layer.recipe.tone_like.skin && !layer.recipe.tone_like.colour) {
        out.tone_like = find_skin(state, layer.recipe.tone_like.skin);
        if (!out.tone_like)
            return Error{ErrorCode::Gone, "The skin whose tone '" + layer.name +
                                              "' is brought to is no longer there. Choose another, or the base's."};
    }
    if (layer.from == LayerFrom::Photos) {
        const PhotoSet* set = fit->photo ? find_photo_set(state, fit->photo_set_id) : nullptr;
        if (!set || !set->photos)
            return Error{ErrorCode::Gone, "The photographs of '" + fit->name + "' are no longer in the project."};
        out.photos = set->photos, out.marks = set->marks;
        return out;
    }
    const Source* source = find_source(state, fit->source_id);
    if (!source || !source->mesh)
        return Error{ErrorCode::Gone, "The source of '" + fit->name + "' is no longer in the project."};
    out.source = *source;
    return out;
}

Result<BakedLayer> bake_layer(const LayerBaking& what, const Progress& progress) {
    BakedLayer out{what.layer, {}};
    std::map<std::string, LayerTile> tiles;
    for (const auto& [name, was] : what.layer.tiles) {
        if (was.paint || was.mask) tiles[name].paint = was.paint, tiles[name].mask = was.mask;
    }
    const auto take = [&](BakedTile&& baked) -> Status {
        if (std::all_of(baked.found.begin(), baked.found.end(),
                        [](std::uint8_t f) { return static_cast<Found>(f) == Found::Nothing; }))
            return Done{};  // eyes and teeth keep the base's
        progress.say(0.95, "Keeping tile " + baked.tile.name);
        LayerTile& tile = tiles[baked.tile.name];
        keep_tile(baked, tile);
        return Done{};
    };
    BakeSettings settings = settings_of(what.layer.recipe, what.size);
    if (what.tone_like) {
        const auto base = bake_surface(*what.kit, *what.fit.positions);
        if (!base) return base.error();
        auto logs = skin_logs(what.kit->mesh, *base, at_stage(*what.tone_like, {}));
        if (!logs) return logs.error();
        settings.tone_like = std::make_shared<const std::vector<std::optional<Vec3>>>(std::move(*logs));
    }
    auto report = what.photos ? bake_of_photos(what, settings, take, progress)
                              : bake_fit({what.kit, what.fit, *what.source, what.layer.recipe.leave_out_not_skin}, 0,
                                         settings, take, progress);
    if (!report) return report.error();
    out.report = std::move(*report);
    out.layer.tiles = std::move(tiles);
    out.layer.baked_for = shape_hash(*what.fit.positions);
    const ReachedShares shares = where_it_reaches(out.report);
    out.layer.seen = shares.seen, out.layer.mirrored = shares.mirrored;
    out.layer.regions = regions_of(out.report);
    out.layer.notes = out.report.notes;
    return out;
}

Result<SkinLayer> worn_layer(const BaseKit& kit, const LayeredSkin& skin, const std::string& name,
                             const Progress& progress) {
    const auto base = bake_surface(kit, kit.mesh.positions);
    if (!base) return base.error();
    SkinLayer out;
    out.from = LayerFrom::Worn, out.name = name;
    for (const UvTile& tile : base->tiles) {
        progress.say(0.1, "Tile " + tile.name);
        if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled; nothing was changed."};
        if (std::none_of(skin.layers.begin(), skin.layers.end(), [&](const SkinLayer& l) {
                return l.shown && l.stage.empty() && l.tiles.contains(tile.name);
            }))
            continue;
        auto pixels = composed_tile(kit.mesh, *base, tile, at_stage(skin, {}));
        if (!pixels) return pixels.error();
        out.tiles[tile.name].picture = std::make_shared<Image>(Image{"picture.png", kPng, encode_png(*pixels)});
    }
    if (out.tiles.empty())
        return Error{ErrorCode::BadInput, "'" + skin.name + "' shows nothing but the base's own skin."};
    return out;
}

std::vector<SkinShare> skins_in_mix(const ProjectState& state) {
    std::vector<SkinShare> out;
    const std::vector<MorphAmount> amounts = state.amounts();
    for (std::size_t i = 0; i < state.bank.size(); ++i) {
        const BankEntry& entry = state.bank[i];
        const auto of = std::find_if(state.subjects.begin(), state.subjects.end(), [&](const Subject& s) {
            return entry.subject ? s.id == entry.subject : s.name == entry.morph->name;
        });
        if (of == state.subjects.end() || !of->skin()) continue;
        SkinShare share{of->skin(), amounts[i].amount, {}};
        for (const RegionAmount& r : state.region_mix) {
            if (r.morph == entry.morph->name) share.in_regions[r.region] += r.amount;
        }
        if (share.amount != 0 || !share.in_regions.empty()) out.push_back(std::move(share));
    }
    return out;
}

Status show_only_in(const BaseKit& kit, const std::string& region, int size, SkinLayer& layer) {
    for (auto& [name, tile] : layer.tiles) tile.mask = nullptr;
    if (region.empty()) return Done{};
    const BaseRegions regions = face_regions(kit);
    const auto at = std::find(regions.names.begin(), regions.names.end(), region);
    if (at == regions.names.end())
        return Error{ErrorCode::BadInput, "The base has no region '" + region + "' to show a layer in."};
    const auto base = bake_surface(kit, kit.mesh.positions);
    if (!base) return base.error();
    const std::vector<float>& weight = regions.weight[static_cast<std::size_t>(at - regions.names.begin())];
    for (const UvTile& tile : base->tiles)
        layer.tiles[tile.name].mask = std::make_shared<const TexelBlocks>(region_mask(*base, tile, weight, size));
    return Done{};
}

}  // namespace veld
