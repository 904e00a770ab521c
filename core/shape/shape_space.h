#pragma once
// What heads a photo head may make, and how likely each is: a Gaussian over shapes of the base's head.
//
//   x = base + sum_k z_k mode_k,     z_k ~ N(0, 1)
//
// Two parts, added as covariances [Luethi, Gerig, Jud, Vetter 2018, Gaussian process morphable models]:
//  - smooth deformations of the base's own surface, from its bending energy: (M + lambda^4 B)^-1 is the
//    covariance of a Matern field on the surface [Lindgren, Rue, Lindstroem 2011], here of several lengths
//    lambda. Along the surface, so upper and lower lip are far apart. Left and right of a face go together.
//    Reduced to its strongest modes at control vertices [Williams & Seeger 2001, Nystroem].
//  - the principal components of heads that are known (head morphs of the bank), mirrored ones included.
// The head fades into the untouched body over the neck band.
#include <Eigen/Core>
#include <vector>

#include "core/base/result.h"
#include "core/kit/base_kit.h"

namespace veld {

struct ShapeSpace {
    std::vector<Index> vertex;  // of the head's skin that may move, ascending
    std::vector<Index> slot;    // per vertex of the base: its three rows in `mode`, kNone
    Eigen::MatrixXf mode;       // 3 rows a vertex, then 3 for each eye (it goes with its lids); scaled by
                                // its standard deviation, mm
    int known = 0;              // the first so many columns come from known heads
    std::string topology;

    int count() const { return static_cast<int>(mode.cols()); }
    // The three rows of a vertex; zero for one that does not move.
    Eigen::Matrix<double, 3, Eigen::Dynamic> rows(Index v) const;
    // All vertices of the base; those that do not move stay.
    Points shape(const Points& base, const Eigen::VectorXd& z) const;
};

struct ShapeSpaceOptions {
    double neck_band_mm = 55;
    int smooth_modes = 90;   // per coordinate, half of them alike on both sides
    int known_modes = 40;    // at most
    double smooth_mm = 3.5;  // standard deviation of the softest deformation where heads are known to
                             // differ that much
    double mirror = 0.8;     // correlation of left and right
};
// heads: how known heads differ from the base, per vertex of it, mm; may be empty. Fails with BadInput when one has
// another count.
Result<ShapeSpace> make_shape_space(const BaseKit& kit, const std::vector<Points>& heads,
                                    const ShapeSpaceOptions& options = {});

// The most likely coefficients of a shape, to start from it. noise_mm: what need not be met.
Eigen::VectorXd coefficients_of(const ShapeSpace& space, const Points& base, const Points& shape,
                                double noise_mm = 0.3);

}  // namespace veld
