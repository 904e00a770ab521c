#pragma once
// What a photo head's solve passes from round to round; of photo_head.cpp and its helpers alone.
#include <map>
#include <optional>

#include "core/base/progress.h"
#include "core/photo/outline.h"
#include "core/photo/photo_head.h"
#include "core/photo/solve.h"

namespace veld {

struct HeadWork {
    const PhotoHeadInput& in;
    const Progress& progress;
    std::map<std::string, SurfacePoint> points;
    std::map<std::string, std::vector<SurfacePoint>> curves;
    std::vector<std::optional<PhotoCamera>> cameras;
    std::vector<EdgePicture> pictures;  // empty ones: no pixels
    std::vector<SkinTone> tones;
    OutlineSurface outline;
    Eigen::VectorXd z;
    Points shape;
    double strength = 1;                       // of the shape space; more where the shape cut itself
    double eyes_mm = 0;                        // asked of the solve, so that the seated eyes end where they should
    std::vector<std::vector<Sight>> outlines;  // of the last round, per photograph
};

// As the settings have it; unlisted photographs have the usual one.
PhotoLens lens_of(const PhotoHeadInput& in, std::size_t i);
// A camera of the photograph's size and lens that stands nowhere yet.
PhotoCamera camera_like(const PhotoHeadInput& in, std::size_t i);
// A profile that was found by its outline and that nobody marked.
bool is_guessed_profile(const PhotoView2D& view);
// Pixels of a millimetre at the face, before any camera is known: from where marks and samples lie.
double rough_scale(const HeadWork& w, std::size_t i);

std::vector<Sight> point_sights(const HeadWork& w, std::size_t i, double scale, bool places);
std::vector<Sight> curve_sights(const HeadWork& w, std::size_t i, const SurfaceQuery& query,
                                const PhotoCamera& camera);
// Edges and skin tones of the pictures, for outlines.
void look_at_pictures(HeadWork& w);
// Cameras and shape solved once from what is seen under the cameras so far.
Status solve_round(HeadWork& w, int round, Eigen::Index modes, int iterations);

constexpr int kPhotoRounds = 5;

// How well one photograph is met.
PhotoFigures figures_of(const HeadWork& w, std::size_t i);
// Which vertices and regions some photograph shows.
void say_what_was_seen(const HeadWork& w, PhotoHead& out);
// The lens that the data alone would choose, against the one that the file names; and whether the photographs show one
// person. Only fails with Cancelled.
Status say_what_looks_wrong(HeadWork& w, PhotoHead& out);

}  // namespace veld
