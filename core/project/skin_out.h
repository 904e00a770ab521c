#pragma once
// A subject's skin out of the program: its maps as files, and the base wearing it.
#include "core/exchange/export.h"
#include "core/project/skins.h"
#include "core/skin/bake_out.h"
#include "core/skin/layers.h"

namespace veld {

struct SkinOut {
    std::shared_ptr<const BaseKit> kit;
    std::shared_ptr<const LayeredSkin> skin;
    std::optional<FitBaking> relief;  // what all maps but colours and masks are baked from
    std::vector<SkinMap> maps{SkinMap::Colour};
    int level = 0;  // subdivisions of the base that relief is for
    MapFiles files;
    // The skin's stages go out too, under NAME_STAGE: the same maps, their relief from here; a stage that is not here
    // has the relief of the skin, and only its colours are written.
    bool stages = false;
    std::map<std::string, FitBaking> stage_relief = {};
    // The subject's other skins go out too, under their own names: their colours, their relief is this one's.
    bool all_skins = false;
    std::vector<SkinOut> others = {};
};
// Of a subject's skin: all that is baked from, and its name; maps, level and the rest of files are to be filled in.
SkinOut skin_out_of(const ProjectState& state, SubjectId subject, std::shared_ptr<const LayeredSkin> skin);
// Colours are the layers as they are seen; the others are baked for it. Returns the files. Fails with BadInput where
// relief is wanted and there is no scan or sculpt, or stages under a pattern without {name}; else as bake() and
// MapWriter do; what was written stays.
Result<std::vector<std::string>> write_skin_maps(const SkinOut& what, const Progress& progress);

// The base wearing the skin as a GLB, with these morphs; normals and occlusion too where maps say so and there is
// relief. Stages and other skins are variants of its materials (KHR_materials_variants).
Status write_skin_glb(const SkinOut& what, const std::vector<MorphAmount>& morphs, const std::string& path,
                      const Progress& progress);
// The kit wearing the skin.
Result<BaseKit> dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const Progress& progress);
// That kit as a folder of its own. Fails with BadInput where the folder is the kit's own, else as write_base_kit().
Status write_dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const std::string& folder,
                         const Progress& progress);

}  // namespace veld
