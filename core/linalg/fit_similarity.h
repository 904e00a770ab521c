#pragma once
// Similarity transform between two point sets.
//
// Minimises  sum_i w_i | s R p_i + t - q_i |^2  in closed form [Umeyama 1991], re-weighted
// [Geman & McClure 1987] so that a few misplaced landmarks do not tilt the whole head.
#include "core/base/result.h"
#include "core/base/similarity.h"
#include "core/base/types.h"

namespace veld {

struct SimilarityOptions {
    bool allow_scale = true;      // false: rigid (a scan whose unit is known)
    double outlier_mm = 6.0;      // residual (in `to`'s unit) at which a pair counts a quarter; 0: never
    std::vector<double> weights;  // empty: all 1
};

// from, to: same order, n >= 3 and not on one line. Fails with DegenerateInput otherwise.
Result<Similarity> fit_similarity(const Points& from, const Points& to, const SimilarityOptions& options = {});

}  // namespace veld
