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
    return Json{{"light_out", r.light_out},
                {"tone", r.tone},
                {"leave_out_not_skin", r.leave_out_not_skin},
                {"keep_brows", r.keep_brows},
                {"fill_mirrored", r.fill_mirrored},
                {"half", skin_half_name(r.half)}}
        .dump();
}

Result<LayerRecipe> parse_layer_recipe(const std::string& text) {
    const Json json = Json::parse(text, nullptr, false);
    const auto bad = [](const std::string& why) { return Error{ErrorCode::BadInput, why}; };
    if (!json.is_object()) return bad("has a recipe that is none.");
    LayerRecipe out;
    const std::pair<const char*, double*> shares[] = {{"light_out", &out.light_out}, {"tone", &out.tone}};
    const std::pair<const char*, bool*> choices[] = {{"leave_out_not_skin", &out.leave_out_not_skin},
                                                     {"keep_brows", &out.keep_brows},
                                                     {"fill_mirrored", &out.fill_mirrored}};
    for (const auto& [name, value] : json.items()) {
        bool known = false;
        for (const SkinHalf half : kSkinHalves) {
            if (name == "half" && value == skin_half_name(half)) out.half = half, known = true;
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

SkinLayer* LayeredSkin::layer(LayerId wanted) { return const_cast<SkinLayer*>(std::as_const(*this).layer(wanted)); }

}  // namespace veld
