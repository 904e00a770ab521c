#include "core/skin/layers.h"

#include <utility>

#include "core/base/json.h"

namespace veld {
namespace {

constexpr std::pair<LayerFrom, const char*> kFromNames[] = {{LayerFrom::Scan, "scan"},
                                                            {LayerFrom::Photos, "photos"},
                                                            {LayerFrom::Worn, "worn"},
                                                            {LayerFrom::Painted, "painted"}};
constexpr std::pair<LayerBlend, const char*> kBlendNames[] = {
    {LayerBlend::Over, "over"},     {LayerBlend::Multiply, "multiply"},
    {LayerBlend::Screen, "screen"}, {LayerBlend::SoftLight, "soft_light"},
    {LayerBlend::Tone, "tone"},     {LayerBlend::Light, "light"}};

template <class Value, std::size_t N>
std::optional<Value> named(const std::pair<Value, const char*> (&names)[N], const std::string& name) {
    for (const auto& [value, known] : names) {
        if (name == known) return value;
    }
    return {};
}

template <class Value, std::size_t N>
const char* name_in(const std::pair<Value, const char*> (&names)[N], Value wanted) {
    for (const auto& [value, name] : names) {
        if (value == wanted) return name;
    }
    return "";
}

}  // namespace

const char* layer_from_name(LayerFrom from) { return name_in(kFromNames, from); }
std::optional<LayerFrom> layer_from_from_name(const std::string& name) { return named(kFromNames, name); }
const char* layer_blend_name(LayerBlend blend) { return name_in(kBlendNames, blend); }
std::optional<LayerBlend> layer_blend_from_name(const std::string& name) { return named(kBlendNames, name); }

std::string layer_recipe_text(const LayerRecipe& r) {
    Json out = {{"light_out", r.light_out},
                {"shine_out", r.shine_out},
                {"tone", r.tone},
                {"leave_out_not_skin", r.leave_out_not_skin},
                {"keep_brows", r.keep_brows},
                {"fill_mirrored", r.fill_mirrored},
                {"own_grain", r.own_grain},
                {"half", skin_half_name(r.half)}};
    if (r.tone_like.colour) {
        const Colour& c = *r.tone_like.colour;
        out["tone_like"] = {c.r, c.g, c.b};
    } else if (r.tone_like.skin) {
        out["tone_like"] = id_text(r.tone_like.skin.value);
    }
    return out.dump();
}

namespace {

// "base", a skin's id, or a colour as three bytes.
std::optional<ToneLike> tone_like_of(const Json& value) {
    ToneLike out;
    if (value == "base") return out;
    if (value.is_string()) {
        out.skin = {id_value(value.get<std::string>())};
        return out.skin ? std::optional(out) : std::nullopt;
    }
    if (!value.is_array() || value.size() != 3) return {};
    std::uint8_t c[3];
    for (std::size_t k = 0; k < 3; ++k) {
        if (!value[k].is_number_integer() || value[k].get<std::int64_t>() < 0 || value[k].get<std::int64_t>() > 255)
            return {};
        c[k] = value[k].get<std::uint8_t>();
    }
    out.colour = Colour{c[0], c[1], c[2], 255};
    return out;
}

}  // namespace

Result<LayerRecipe> parse_layer_recipe(const std::string& text) {
    const Json json = Json::parse(text, nullptr, false);
    const auto bad = [](const std::string& why) { return Error{ErrorCode::BadInput, why}; };
    if (!json.is_object()) return bad("has a recipe that is none.");
    LayerRecipe out;
    const std::pair<const char*, double*> shares[] = {
        {"light_out", &out.light_out}, {"shine_out", &out.shine_out}, {"tone", &out.tone}};
    const std::pair<const char*, bool*> choices[] = {{"leave_out_not_skin", &out.leave_out_not_skin},
                                                     {"keep_brows", &out.keep_brows},
                                                     {"fill_mirrored", &out.fill_mirrored},
                                                     {"own_grain", &out.own_grain}};
    for (const auto& [name, value] : json.items()) {
        bool known = false;
        for (const SkinHalf half : kSkinHalves) {
            if (name == "half" && value == skin_half_name(half)) out.half = half, known = true;
        }
        if (name == "tone_like") {
            const auto like = tone_like_of(value);
            if (!like) return bad("says 'tone_like' with something else than 'base', a skin or three bytes.");
            out.tone_like = *like, known = true;
        }
        for (const auto& [key, to] : shares) {
            if (name != key) continue;
            known = true;
            if (!value.is_number() || !(value.get<double>() >= 0 && value.get<double>() <= 1))
                return bad("says '" + name + "' with something else than a number of 0 to 1.");
            *to = value.get<double>();
        }
        for (const auto& [key, to] : choices) {
            if (name != key) continue;
            known = true;
            if (!value.is_boolean()) return bad("says '" + name + "' with something else than true or false.");
            *to = value.get<bool>();
        }
        if (!known) return bad("has a recipe that says '" + name + "' as " + value.dump() + ", which is unknown.");
    }
    return out;
}

const SkinLayer* LayeredSkin::layer(LayerId wanted) const {
    for (const SkinLayer& l : layers) {
        if (l.id == wanted) return &l;
    }
    return nullptr;
}

const SkinStage* LayeredSkin::stage(const std::string& wanted) const {
    for (const SkinStage& s : stages) {
        if (s.name == wanted) return &s;
    }
    return nullptr;
}

LayeredSkin at_stage(const LayeredSkin& skin, const std::string& stage) {
    LayeredSkin out = skin;
    for (SkinLayer& layer : out.layers) layer.shown = layer.shown && (layer.stage.empty() || layer.stage == stage);
    return out;
}

bool skin_only(const LayeredSkin& skin) {
    for (const SkinLayer& l : skin.layers) {
        const bool baked = is_baked(l.from);
        if (baked && l.shown && l.recipe.leave_out_not_skin) return true;
    }
    return false;
}

SkinLayer* LayeredSkin::layer(LayerId wanted) { return const_cast<SkinLayer*>(std::as_const(*this).layer(wanted)); }

}  // namespace veld
