#pragma once
// A subject's skin as layers on the base's tiles, from below upwards.
//
// Below all of them lies the base's own skin. Baked layers remember how they were made, so that they can be made again
// after the fit changed; what is painted lies on the base's own surface, and stays.
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/base/id.h"
#include "core/base/result.h"
#include "core/skin/halves.h"
#include "core/skin/texel_blocks.h"

namespace veld {

enum class LayerFrom {
    Scan,    // of the fit that says so: its scan or sculpt
    Photos,  // the same: its photographs, through their cameras
    Worn,    // another subject's skin as it is when it is put on
    Painted
};
constexpr bool is_baked(LayerFrom from) { return from == LayerFrom::Scan || from == LayerFrom::Photos; }
enum class LayerBlend {
    Over,
    Multiply,
    Screen,
    SoftLight,
    Tone,
    Light
};  // Tone: hue and colourfulness; Light: the rest
inline constexpr LayerFrom kLayersFrom[] = {LayerFrom::Scan, LayerFrom::Photos, LayerFrom::Worn, LayerFrom::Painted};
inline constexpr LayerBlend kLayerBlends[] = {LayerBlend::Over,      LayerBlend::Multiply, LayerBlend::Screen,
                                              LayerBlend::SoftLight, LayerBlend::Tone,     LayerBlend::Light};
const char* layer_from_name(LayerFrom from);  // "scan"
std::optional<LayerFrom> layer_from_from_name(const std::string& name);
const char* layer_blend_name(LayerBlend blend);  // "soft_light"
std::optional<LayerBlend> layer_blend_from_name(const std::string& name);

// Whose tone a layer is brought to.
struct ToneLike {
    SkinId skin;                   // another skin of the project, or
    std::optional<Colour> colour;  // what the face is to look like on the average; neither: the base's own skin
    bool operator==(const ToneLike&) const = default;
};

// How a layer is baked.
struct LayerRecipe {
    double light_out = 1;            // 0..1: how much of the light it was taken in, cast shadows too, goes out
    double tone = 0;                 // 0..1: how far it is brought to another tone, region by region
    bool leave_out_not_skin = true;  // hair, caps, collars: what the source says and what its colours say
    bool keep_brows = true;          // brows, and beards' shade beside the lips, though their colours are no skin's
    bool fill_mirrored = true;       // what is missed comes from the other side first, then from the base
    SkinHalf half = SkinHalf::Both;  // else the other half is filled from this one
    bool own_grain = false;          // what is filled by the base gets the person's own grain
    ToneLike tone_like = {};         // whose tone it is brought to
    double shine_out = 0;            // 0..1: how much of the highlights goes out
    bool operator==(const LayerRecipe&) const = default;
};

// As JSON text, and back: fails with BadInput on what it is not, "has a recipe that ..." without a subject.
std::string layer_recipe_text(const LayerRecipe& recipe);
Result<LayerRecipe> parse_layer_recipe(const std::string& text);

// What a baked layer shows of one region of the skin.
struct LayerRegion {
    std::string region;
    double seen = 0, mirrored = 0, wrong = 0;  // shares of its texels
    double reach_mm = 0;                       // how far was looked; 0: photographs
    SkinHalf better = SkinHalf::Both;          // which half shows it better; Both: neither, or it is on one side
};

// What a layer shows on one tile. Each may be null.
struct LayerTile {
    std::shared_ptr<const Image> picture;      // PNG with alpha, as it was baked
    std::shared_ptr<const Image> found;        // PNG: red is a TexelOrigin
    std::shared_ptr<const TexelBlocks> paint;  // over the picture
    std::shared_ptr<const TexelBlocks> mask;   // its first channel: 255 shows, 0 is erased; null: all of it shows
};

// Where a baked layer's texel came from, for looking and for reports.
enum class TexelOrigin : std::uint8_t { None, Source, Mirrored, Base, Wrong };  // Base, Wrong: filled

struct SkinLayer {
    std::string name;
    LayerFrom from = LayerFrom::Painted;
    bool shown = true;
    double amount = 1;
    LayerBlend blend = LayerBlend::Over;
    LayerRecipe recipe;
    FitId fit;                               // whose source or photographs
    std::string stage;                       // of the skin, that it belongs to; empty: all of them
    std::string baked_for;                   // hash of the shape that it was baked for; empty: never
    std::map<std::string, LayerTile> tiles;  // by UvTile::name
    // Shares of the texels of those regions that the source reaches; the rest of them is filled by the base's.
    double seen = 0, mirrored = 0;
    std::vector<LayerRegion> regions;  // that it reaches
    std::vector<std::string> notes;    // of its bake
    LayerId id = LayerId::make();
};

// What a skin becomes in an expression or a pose: flushed, wrinkled.
struct SkinStage {
    std::string name;        // unique in its skin
    std::string expression;  // of the kit, that it belongs to; empty: none
    FitId fit;               // of that expression's scan, whose relief goes out with it; none: the relief stays
};

struct LayeredSkin {
    std::string name;
    int size = 2048;  // texels a side of each tile
    std::vector<SkinLayer> layers;
    std::vector<SkinStage> stages = {};
    SkinId id = SkinId::make();

    const SkinLayer* layer(LayerId id) const;
    SkinLayer* layer(LayerId id);
    const SkinStage* stage(const std::string& name) const;  // null: there is none
};

// The skin as it is in that stage, "" in none: layers of other stages are not shown.
LayeredSkin at_stage(const LayeredSkin& skin, const std::string& stage);
// Does a layer that is shown leave out what is no skin? Its relief leaves that out too then.
bool skin_only(const LayeredSkin& skin);

}  // namespace veld
