#pragma once
// A subject's skins: layers baked from its fits, worn from others, painted.
#include "core/project/state.h"
#include "core/skin/bake.h"
#include "core/skin/layers.h"
#include "core/skin/mix_skins.h"

namespace veld {

std::shared_ptr<const LayeredSkin> find_skin(const ProjectState& state, SkinId id);
// In place of the one with its id, under its name or, where that is taken, under another; false: that is gone.
bool put_skin(ProjectState& state, std::shared_ptr<const LayeredSkin> skin);
// Added to the subject as its current one, under a name that is free there; false: the subject is gone.
bool add_skin(ProjectState& state, SubjectId subject, LayeredSkin skin);
bool remove_skin(ProjectState& state, SkinId id);

// A layer of the subject's current fit, not baked yet: of its scan, or of its photographs. Fails with BadInput where
// it has no fit, or one made from neither.
Result<SkinLayer> layer_of_fit(const ProjectState& state, SubjectId subject);

// The layer of the subject's current skin that is baked through that fit, the lowest; null: none.
const SkinLayer* layer_through(const Subject& subject, FitId fit);

// Tells one shape from another: of the one that a layer is baked for.
std::string shape_hash(const Points& shape);
// Was the fit changed since the layer was baked? A layer that was never baked is old, one whose fit is gone is not.
bool is_old(const ProjectState& state, const SkinLayer& layer);

// What a layer is baked from, a copy that a worker can have.
struct LayerBaking {
    std::shared_ptr<const BaseKit> kit;
    FitRecord fit;
    std::optional<Source> source;
    std::shared_ptr<const std::vector<Image>> photos;
    std::vector<PhotoMarks> marks;
    SkinLayer layer;
    std::shared_ptr<const LayeredSkin> tone_like = nullptr;  // whose tone it is brought to; null: see the recipe
    int size = 2048;
};
// Fails with Gone where its fit, or what that was made from, is no longer there.
Result<LayerBaking> layer_baking(const ProjectState& state, const SkinLayer& layer, int size);

struct BakedLayer {
    SkinLayer layer;  // with its tiles; what was painted and masked is kept
    BakeReport report;
};
// Fails as bake() does.
Result<BakedLayer> bake_layer(const LayerBaking& what, const Progress& progress);

// Another subject's skin as one layer: its tiles as they are seen now.
Result<SkinLayer> worn_layer(const BaseKit& kit, const LayeredSkin& skin, const std::string& name,
                             const Progress& progress);

// The skins of those whose shapes are in the bank's mix, each as its shape is mixed in. A morph is a subject's when it
// was made of a fit of theirs, or has their name.
std::vector<SkinShare> skins_in_mix(const ProjectState& state);

// The layer shown only in one of the base's face_regions(), "" everywhere again: its masks are replaced. Fails with
// BadInput where there is no such region.
Status show_only_in(const BaseKit& kit, const std::string& region, int size, SkinLayer& layer);

}  // namespace veld
