#pragma once
// A fit from its placement on: what it stands on is made, then wrap, follow, measure.
#include "core/base/similarity.h"
#include "core/fit/problem.h"

namespace veld {

// Makes what is not there yet of a fit's cache.
Status fill_fit_cache(const FitInput& input, const Similarity& to_kit, FitCache& cache);

// A wrap that goes on from a shape: only `active` moves, the rest stays where it is in `start`.
struct WarmWrap {
    WrapProblem problem;  // of the whole
    Points start;
    VertexMask active;
    double from = 0;
    int levels = 0, iterations = 0;
};
// From a placement on: wrap, follow, measure. out: placement, pose, cache and notes so far. warm may be null.
// input.kit stands as the pose bends it.
Result<FitResult> fit_placed(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                             FitResult out, const WarmWrap* warm, const Progress& progress);

}  // namespace veld
