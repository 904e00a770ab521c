#pragma once
// A subject's skin out of the program: its maps as files, and the base wearing it.
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
};
// Of a subject's skin: all that is baked from; maps, level and files are to be filled in.
SkinOut skin_out_of(const ProjectState& state, SubjectId subject, std::shared_ptr<const LayeredSkin> skin);
// Colours are the layers as they are seen; the others are baked for it. Returns the files. Fails with BadInput where
// relief is wanted and there is no scan or sculpt, or stages under a pattern without {name}; else as bake() and
// MapWriter do; what was written stays.
Result<std::vector<std::string>> write_skin_maps(const SkinOut& what, const Progress& progress);

// The kit wearing the skin: what export_glb() takes.
Result<BaseKit> dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const Progress& progress);
// That kit as a folder of its own. Fails with BadInput where the folder is the kit's own, else as write_base_kit().
Status write_dressed_kit(const BaseKit& kit, const LayeredSkin& skin, const std::string& folder,
                         const Progress& progress);

}  // namespace veld
