#pragma once
// From kit, marks and settings to what the wrap is asked to do: who may move, who is matched, how stiff.
#include "core/fit/fit.h"

namespace veld {

// Which part of the skin a fit of this part moves, per vertex; regions that are kept are not yet taken out.
std::vector<char> moving_vertices(const BaseKit& kit, FitPart part, const std::vector<double>& fade);
BaseCreases find_creases(const BaseKit& kit, const std::vector<char>& moving);

// Per vertex 0..1: where a region's setting acts. Painted regions by their weights, the kit's own fading over
// fade_mm. Empty: there is no such region.
std::vector<float> region_weights(const BaseKit& kit, const FitSettings& settings, const std::string& region);

// surface: null when only points and curves shape the fit. Points into surface and creases.
WrapProblem make_problem(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, const Similarity& to_kit,
                         const SourceSurface* surface, const BaseCreases& creases, std::vector<std::string>& notes);

// Vertices of the source that are never matched: what is painted so, and what a figure stands on.
std::vector<std::uint8_t> never_matched(const FitInput& input, const Similarity& to_kit);

// Makes what is not there yet of a fit's ground.
Status lay_ground(const FitInput& input, const Similarity& to_kit, FitGround& ground);

// A wrap that goes on from a shape: only `active` moves, the rest stays where it is in `start`.
struct WarmWrap {
    WrapProblem problem;   // of the whole
    Points start;
    std::vector<char> active;
    double from = 0;
    int levels = 0, iterations = 0;
};
// From a placement on: wrap, follow, measure. out: placement, pose, ground and notes so far. warm may be null.
// input.kit stands as the pose bends it.
Result<FitResult> fit_placed(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, FitResult out, const WarmWrap* warm, const Progress& progress);

}  // namespace veld
