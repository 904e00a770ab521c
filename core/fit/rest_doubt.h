#pragma once
// How sure the rest shape of a figure is, region by region: not how near the fit lies to its scan, but how far the
// shape may be from the true one once the pose is out. That depends on what pose and build could not explain, on skin
// that nobody saw, on how unlike left and right came out though people are nearly symmetric, on how much of the flesh
// is soft, and on how far the joints are turned. The weights are a regression over fits of made-up figures against
// their true rest shapes (benchmarks/body_accuracy --signs).
#include "core/fit/fit_figures.h"
#include "core/kit/base_kit.h"

namespace veld {

// positions, distances: of the fit, per vertex of the base, distances NaN where not compared; pose: what it stands in.
// Of the regions of the body: torso, hip, neck, shoulders down to the hands, thighs down to the feet. Empty when the
// pose is of a head's jaw and lids alone.
std::map<std::string, RestDoubt> rest_doubts(const BaseKit& kit, const Points& positions, const Pose& pose,
                                             const std::vector<float>& distances);

// Root mean square distance from the truth that such signs come with, mm.
double expected_at_rest(const std::string& region, const RestSigns& signs);

}  // namespace veld
