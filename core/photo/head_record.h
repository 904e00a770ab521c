#pragma once
// A head from photographs as data: what was asked, how each photograph is explained, what hands set. photo_head.h and
// by_hand.h work with it.
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/landmark/landmark_set.h"
#include "core/spatial/photo_camera.h"

namespace veld {

// What is known of a photograph's camera before the solve.
struct PhotoLens {
    enum class From { Picture, Typed, Data };  // what the file says, else the data; typed; only the data
    From from = From::Picture;
    double focal_35mm = 0;       // when typed
    bool parallel = false;       // a very long lens: no perspective at all
    std::optional<Vec2> centre;  // of a cropped picture: where its optical axis is, pixels
    bool operator==(const PhotoLens&) const = default;
};

// A place of the base that a person dragged to a pixel.
struct PhotoPlace {
    SurfacePoint place;
    int photo = 0;
    Vec2 pixel = Vec2::Zero();
    bool operator==(const PhotoPlace&) const = default;
};

struct PhotoHeadSettings {
    bool one_lens = false;  // all photographs through the same lens
    bool use_curves = true, use_outline = true, use_depth = true;
    double eyes_mm = 0;   // from pupil to pupil, when somebody measured it; 0: as near to the base's size as can be
    double strength = 1;  // of the shape space: above 1 stays nearer to what is usual
    double neck_band_mm = 55;
    std::vector<PhotoLens> lenses;   // per photograph; shorter: as the picture says
    std::vector<std::string> heads;  // names of the morphs that show how heads differ; empty: none
    std::vector<PhotoPlace> places;
    bool operator==(const PhotoHeadSettings&) const = default;
};
std::string photo_head_settings_text(const PhotoHeadSettings& settings);  // JSON
// Unknown keys and values out of range are errors that name the key.
Result<PhotoHeadSettings> parse_photo_head_settings(std::string_view json, const std::string& where);

// How well one photograph is explained.
struct PhotoFigures {
    std::string name;
    std::optional<PhotoCamera> camera;                // empty: too little is marked on it
    double landmark_rms_mm = 0, landmark_max_mm = 0;  // at the face's distance
    double landmark_share = 0;                        // median residual as a share of the eyes' distance
    double curve_rms_mm = 0, outline_rms_mm = 0;
    int landmarks = 0, outline_points = 0;
    double distance_mm = 0;  // from the camera to between the eyes
    std::map<std::string, double> landmark_mm;
};

// One slider: what the shape space makes of "this region wider, taller, ...". What goes along with it inside the
// region comes along, nothing outside moves.
//   delta = W C f,   C = mode mode^T the space's covariance, f the plain field (x from the middle, y, z), W the
// region's soft weights; scaled so that 1 moves the region's vertices by 1 mm on the average.
enum class HandMove { Wider, Taller, Forward, Up, Tip };  // Tip: forward below, back above
inline constexpr HandMove kHandMoves[] = {HandMove::Wider, HandMove::Taller, HandMove::Forward, HandMove::Up,
                                          HandMove::Tip};
const char* hand_move_name(HandMove move);  // "wider"
std::optional<HandMove> hand_move_from_name(const std::string& name);

struct HandSetting {
    std::string region;  // of BaseRegions
    HandMove move = HandMove::Wider;
    double mm = 0;
    bool operator==(const HandSetting&) const = default;
};
// What people set by hand on a photo head, and which photographs must not notice.
struct HandShape {
    std::vector<HandSetting> settings;
    std::vector<int> keeps;  // photographs whose picture stays: vertices that it sees move along its rays only
    bool operator==(const HandShape&) const = default;
};

}  // namespace veld
