#pragma once
// How good a fit is, in numbers that are kept with it.
//
// Distances are in mm of the kit's frame. Distortion compares each face with the base's own after
// taking the fit's mean size change out: 1 means unchanged.
#include "core/fit/fit_figures.h"
#include "core/fit/wrap.h"
#include "core/kit/base_kit.h"

namespace veld {

constexpr std::size_t kMostFaults = 200;

DistanceFigures summary_of(const std::vector<double>& distances);

// distances: per vertex of the base, mm to the source; NaN where nothing was compared. faulty: null, or gets the
// triangles of problem.surface that cut or are turned over.
FitFigures measure_fit(const BaseKit& kit, const WrapProblem& problem, const Points& fit,
                       const std::vector<Match>& matches, std::vector<float>* distances,
                       TriangleIndices* faulty = nullptr);

}  // namespace veld
