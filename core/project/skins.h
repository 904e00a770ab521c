#pragma once
// Skins of a project's subjects: what a fit's source shows, baked onto the base's tiles.
#include "core/project/state.h"
#include "core/skin/bake.h"

namespace veld {

// What a fit's bake is made from, a copy that a worker can have.
struct FitBaking {
    std::shared_ptr<const BaseKit> kit;
    FitRecord fit;
    Source source;
    // What of the source is never baked: what is ignored, and what was taken for no skin though it may be matched.
    bool leave_out_not_skin = true;
};
// Of the subject's current fit. Fails with BadInput where there is no fit, or none that was made from a scan or
// sculpt; Gone where its source is no longer there.
Result<FitBaking> baking_of(const ProjectState& state, SubjectId subject);

// Of any fit. The same but for the first reason.
Result<FitBaking> baking_of_fit(const ProjectState& state, const FitRecord& fit);

// level: subdivisions of the base that the maps are for. As bake().
Result<BakeReport> bake_fit(const FitBaking& what, int level, const BakeSettings& settings,
                            const std::function<Status(BakedTile&&)>& take, const Progress& progress);

// Its relief alone, for the maps of the settings but colours. skin_only: what is no skin by its colours (a cap that
// detection did not know) is left out, where the source has colours.
Result<BakeReport> bake_relief(const FitBaking& what, int level, BakeSettings settings, bool skin_only,
                               const std::function<Status(BakedTile&&)>& take, const Progress& progress);

}  // namespace veld
