#pragma once
// A skin from one base to another: the old base is laid onto the new one and baked like a scan. Between kits of one
// mesh and one layout of UVs it is taken as it is.
#include "core/base/progress.h"
#include "core/project/state.h"
#include "core/skin/layers.h"

namespace veld {

struct CarriedSkin {
    SkinLayer layer;        // LayerFrom::Worn, without reports of regions
    std::size_t exact = 0;  // vertices of the new base that lie on one of the old; 0: the old base was fitted onto it
    double seen = 0;        // share of the new skin's texels that the old one covers; the others are filled
    std::vector<std::string> notes;
};

// from, skin: what the old base wears; null: its own pictures. size: texels a side of the new tiles. Fails with
// BadInput where the old skin has no colours or a base has no UVs, else as lay_base() and bake().
Result<CarriedSkin> carry_skin(const BaseKit& from, const LayeredSkin* skin, const std::string& name,
                               const BaseKit& to, int size, const Progress& progress);

// Of another project: its subject's skin by their names (empty: the current ones); a subject without one is refused.
Result<CarriedSkin> carry_skin_from_project(const std::string& path, const std::string& subject,
                                            const std::string& skin, const BaseKit& to, int size,
                                            const Progress& progress);

// Which skins a project file has: subject and skin. Fails as load_project().
Result<std::vector<std::pair<std::string, std::string>>> skins_in_project(const std::string& path);

}  // namespace veld
