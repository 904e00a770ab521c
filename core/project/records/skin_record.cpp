#include <algorithm>

#include "core/project/records/packing.h"
#include "core/skin/bake_surface.h"
#include "core/skin/layers.h"

namespace veld {
namespace {

Json pack_blocks(const TexelBlocks& blocks, BlobWriter& blobs) {
    return {{"size", blocks.size()},
            {"fill", blocks.fill()},
            {"used", blobs.keep_array(blocks.used())},
            {"texels", blobs.keep_array(blocks.bytes())}};
}

std::shared_ptr<const TexelBlocks> unpack_blocks(const Json& j, const BlobReader& blobs) {
    std::vector<std::uint32_t> used;
    std::vector<std::uint8_t> texels;
    auto out = std::make_shared<TexelBlocks>();
    if (!blobs.array(j.at("used"), used) || !blobs.array(j.at("texels"), texels) ||
        !out->read(j.at("size"), j.at("fill").get<TexelBlocks::Texel>(), used, texels))
        return nullptr;
    return out;
}

std::shared_ptr<const Image> unpack_picture(const Json& j, const char* what, const BlobReader& blobs) {
    auto out = std::make_shared<Image>();
    out->name = std::string(what) + ".png", out->mime = "image/png";
    return blobs.array(j.at(what), out->bytes) && !out->bytes.empty() ? out : nullptr;
}

Json pack_layer(const SkinLayer& layer, BlobWriter& blobs) {
    Json out = {{"id", id_text(layer.id.value)}, {"name", layer.name},     {"from", layer_from_name(layer.from)},
                {"shown", layer.shown},          {"amount", layer.amount}, {"blend", layer_blend_name(layer.blend)},
                {"tiles", Json::object()}};
    if (layer.fit) out["fit"] = id_text(layer.fit.value);
    if (!layer.stage.empty()) out["stage"] = layer.stage;
    if (is_baked(layer.from)) {
        out["recipe"] = Json::parse(layer_recipe_text(layer.recipe));
        out["baked_for"] = layer.baked_for;
        out["seen"] = layer.seen, out["mirrored"] = layer.mirrored;
        out["notes"] = layer.notes;
        for (const LayerRegion& r : layer.regions)
            out["regions"][r.region] = {r.seen, r.mirrored, r.wrong, r.reach_mm, skin_half_name(r.better)};
    }
    for (const auto& [name, tile] : layer.tiles) {
        Json& t = out["tiles"][name] = Json::object();
        if (tile.picture) t["picture"] = blobs.keep_array(tile.picture->bytes);
        if (tile.found) t["found"] = blobs.keep_array(tile.found->bytes);
        if (tile.paint) t["paint"] = pack_blocks(*tile.paint, blobs);
        if (tile.mask) t["mask"] = pack_blocks(*tile.mask, blobs);
    }
    return out;
}

Result<SkinLayer> unpack_layer(const Json& j, const BlobReader& blobs) {
    SkinLayer out;
    read_id(j, "id", out.id);
    out.name = j.at("name");
    const auto from = layer_from_from_name(j.at("from"));
    const auto blend = layer_blend_from_name(j.at("blend"));
    const auto damaged = [&](const std::string& why) {
        return blobs.damaged("the skin's layer '" + out.name + "' " + why);
    };
    if (!from || !blend) return damaged("is of a kind that this program does not know.");
    out.from = *from, out.blend = *blend;
    out.shown = j.at("shown"), out.amount = j.at("amount");
    if (j.contains("fit")) read_id(j, "fit", out.fit);
    out.stage = j.value("stage", "");
    if (j.contains("recipe")) {
        auto recipe = parse_layer_recipe(j["recipe"].dump());
        if (!recipe) return damaged(recipe.error().message);
        out.recipe = *recipe;
    }
    out.baked_for = j.value("baked_for", "");
    out.seen = j.value("seen", 0.0), out.mirrored = j.value("mirrored", 0.0);
    out.notes = j.value("notes", std::vector<std::string>());
    const Json regions = j.value("regions", Json::object());
    for (const auto& [name, r] : regions.items()) {
        out.regions.push_back({name, r.at(0), r.at(1), r.at(2), r.at(3), SkinHalf::Both});
        for (const SkinHalf half : kSkinHalves) {
            if (r.at(4) == skin_half_name(half)) out.regions.back().better = half;
        }
    }
    for (const auto& [name, t] : j.at("tiles").items()) {
        LayerTile& tile = out.tiles[name];
        if (t.contains("picture") && !(tile.picture = unpack_picture(t, "picture", blobs)))
            return damaged("has lost a picture.");
        if (t.contains("found") && !(tile.found = unpack_picture(t, "found", blobs)))
            return damaged("has lost where its texels come from.");
        if (t.contains("paint") && !(tile.paint = unpack_blocks(t["paint"], blobs)))
            return damaged("has lost what was painted.");
        if (t.contains("mask") && !(tile.mask = unpack_blocks(t["mask"], blobs))) return damaged("has lost its mask.");
    }
    return out;
}

}  // namespace

Json pack_skin(const LayeredSkin& skin, BlobWriter& blobs) {
    Json out = {{"id", id_text(skin.id.value)}, {"name", skin.name}, {"size", skin.size}, {"layers", Json::array()}};
    for (const SkinLayer& layer : skin.layers) out["layers"].push_back(pack_layer(layer, blobs));
    for (const SkinStage& stage : skin.stages) {
        Json one = {{"name", stage.name}, {"expression", stage.expression}};
        if (stage.fit) one["fit"] = id_text(stage.fit.value);
        out["stages"].push_back(one);
    }
    return out;
}

Result<std::shared_ptr<const LayeredSkin>> unpack_skin(const Json& j, const BlobReader& blobs) {
    auto out = std::make_shared<LayeredSkin>();
    read_id(j, "id", out->id);
    out->name = j.at("name"), out->size = j.at("size");
    if (out->size < 16 || out->size > 16384) return blobs.damaged("the skin '" + out->name + "' has no size.");
    for (const Json& l : j.at("layers")) {
        auto layer = unpack_layer(l, blobs);
        if (!layer) return layer.error();
        out->layers.push_back(std::move(*layer));
    }
    for (const Json& s : j.value("stages", Json::array())) {
        SkinStage stage{s.at("name"), s.value("expression", ""), {}};
        if (s.contains("fit")) read_id(s, "fit", stage.fit);
        out->stages.push_back(std::move(stage));
    }
    return std::shared_ptr<const LayeredSkin>(out);
}

Result<std::shared_ptr<const LayeredSkin>> unpack_fit_skin(const Json& fit, const BaseKit& kit,
                                                           const BlobReader& blobs) {
    if (!fit.contains("skin")) return std::shared_ptr<const LayeredSkin>();
    const Json& j = fit["skin"];
    const std::string of = fit.at("name");
    std::string bytes;
    if (!blobs.bytes(j.at("bytes"), bytes)) return blobs.damaged("the skin of '" + of + "' is missing.");
    auto picture = std::make_shared<Image>(Image{"picture.png", "image/png", {bytes.begin(), bytes.end()}});
    const auto pixels = decode_image(*picture);
    const auto base = bake_surface(kit, kit.mesh.positions);  // fails where the kit has lost its UVs: no tile shows it
    auto out = std::make_shared<LayeredSkin>();
    out->name = of, out->size = pixels ? std::clamp(pixels->width, 16, 16384) : out->size;
    SkinLayer layer;
    layer.from = LayerFrom::Worn, layer.name = j.at("name");
    for (std::size_t i = 0; base && i < base->tiles.size(); ++i) {
        const UvTile& tile = base->tiles[i];
        if (tile.image == j.at("kit_image").get<int>()) layer.tiles[tile.name].picture = picture;
    }
    out->layers.push_back(std::move(layer));
    return std::shared_ptr<const LayeredSkin>(out);
}

}  // namespace veld
