#pragma once
// A smooth map of space through pairs of points.
//
// An affine part plus polyharmonic radial functions |r| [Carr et al. 2001], smoothed, and re-weighted
// [Geman & McClure 1987] so that single wrong pairs do not bend it.
#include "core/base/types.h"

namespace veld {

class SmoothMap {
 public:
    // from, to: same length, mm. weights: empty, or one per pair. smooth_mm: how far out of line a pair
    // may pull the map before it counts as noise. Below five pairs the map is the mean shift.
    SmoothMap(const Points& from, const Points& to, const std::vector<double>& weights = {}, double smooth_mm = 2.0);
    Vec3 operator()(const Vec3& p) const;
    // How far each pair lies from the map, mm.
    const std::vector<double>& residuals() const { return residuals_; }

 private:
    Points centres_;
    Eigen::Matrix<double, Eigen::Dynamic, 3> weights_;  // of the radial functions, then of 1, x, y, z
    std::vector<double> residuals_;
};

}  // namespace veld
