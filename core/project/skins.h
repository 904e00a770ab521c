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

// level: subdivisions of the base that the maps are for. As bake().
Result<BakeReport> bake_fit(const FitBaking& what, int level, const BakeSettings& settings,
                            const std::function<Status(BakedTile&&)>& take, const Progress& progress);

}  // namespace veld
