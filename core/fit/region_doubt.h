#pragma once
// Does a look at this part of the fit find it right? Distance alone cannot say: a surface that copies a cap, or an ear
// folded onto its scan, lies on it to a hundredth of a millimetre. What could contradict a part of the head is weighed
// together: what was not seen at all, how far the shape is from the most likely head (likely_head.h) in deviations,
// marks that are doubted or not met, folds and stretch, and what was matched though it likely is no skin. The weights
// are a logistic regression over fits of made-up heads that share nothing with the kit, against their true surface
// (benchmarks/foreign_fit --signs).
#include <map>
#include <string>

#include "core/fit/fit.h"
#include "core/fit/problem.h"

namespace veld {

struct SignsInput {
    const BaseKit& kit;  // as the pose bends it
    const FitInput& fit;
    const WrapProblem& problem;
    const std::vector<double>& open;  // per vertex, BaseCreases::open
    const Points& shape;
    const std::vector<Match>& matches;
    const LikelyHead* likely = nullptr;  // null: no heads are known
    const TriangleIndices& faulty;       // of problem.surface's triangles: they cut or are turned over
};
// Of the regions of the head that can be looked at: face, lids, lips, ears, skull, neck.
std::map<std::string, RegionSigns> region_signs(const SignsInput& input);

// Likelihood that a look would send it back.
double looks_wrong(const std::string& region, const RegionSigns& signs);
// So little of it was seen that it follows from the rest of the head.
bool is_guessed(const RegionSigns& signs);
// From here on it is said.
inline constexpr double kLooksWrong = 0.3;

// Signs, likelihood and the sign that says most of it.
RegionDoubt region_doubt(const std::string& region, const RegionSigns& signs);

}  // namespace veld
