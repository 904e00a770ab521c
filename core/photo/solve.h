#pragma once
// Cameras and shape together, from what is seen in the photographs.
//
//   sum over sights      rho( | N (project_i(x(z)) - pixel) |^2 / sigma^2 )
//   + depths             the network's idea of how deep a face is there, against that of the base
//   + lenses             (log focal - log expected)^2 / sigma^2
//   + turns              (yaw - expected)^2 / sigma^2
//   + sizes              (|a - b| - known)^2 / sigma^2
//   + |z|^2              the shape space (shape_space.h)
// minimised by Levenberg-Marquardt [Ceres Solver], re-weighted (Cauchy) so that a wrong landmark does not
// bend a face. Distance and focal length of one photograph are nearly exchangeable: what tells them apart is
// how much nearer the nose is than the ears, so every camera and the shape are solved for at once.
#include "core/base/progress.h"
#include "core/landmark/landmarks.h"
#include "core/shape/shape_space.h"
#include "core/spatial/photo_camera.h"

namespace veld {

// A place of the base that is seen in a photograph.
struct Sight {
    SurfacePoint place;
    Vec2 pixel = Vec2::Zero();
    double sigma = 1;            // pixels
    std::optional<Vec2> across;  // unit: only the distance along it counts (a curve, an outline)
};
struct DepthSight {
    SurfacePoint place;
    double depth_mm = 0;  // away from the camera, from a zero that all of a photograph share
    double sigma_mm = 5;
};
struct SolveView {
    PhotoCamera camera;  // where to start from
    std::vector<Sight> sights;
    std::vector<DepthSight> depths;
    double expected_focal = 0;                // pixels; 0: nothing is known of it
    double focal_sigma = 0.05;                // of its logarithm
    bool focal_fixed = false, fixed = false;  // fixed: the camera stays as it is
    std::optional<double>
        expected_yaw;  // degrees, as head_turn() says: how the head is turned, where marks cannot tell
    double yaw_sigma = 5;
};
// The one thing that no photograph tells: how large the head is.
struct KnownSize {
    SurfacePoint a, b;
    double mm = 0, sigma_mm = 0.3;
};
struct SolveProblem {
    const Points* base = nullptr;
    const ShapeSpace* space = nullptr;
    std::vector<SolveView> views;
    std::vector<KnownSize> sizes;
    Eigen::VectorXd z;      // to start from; shorter than the space: only these modes are solved for
    bool one_lens = false;  // all pinhole views of one size share their focal length; one that is fixed is everybody's
    double prior = 1;       // of the shape
    int iterations = 12;
};
struct Solved {
    std::vector<PhotoCamera> cameras;
    Eigen::VectorXd z;
    double cost = 0;
    int iterations = 0;
};
// Cancelled: fails with Cancelled. Fails with DegenerateInput when no view has three sights.
Result<Solved> solve_photos(const SolveProblem& problem, const Progress& progress);

// Where a camera of this focal length (pixels) stands, from sights of a known shape: closed form under weak
// perspective, then refined. Fails with DegenerateInput when fewer than four places are seen or all lie on a line.
Result<PhotoCamera> place_camera(const PhotoCamera& like, const std::vector<Sight>& sights, const Points& shape);

}  // namespace veld
