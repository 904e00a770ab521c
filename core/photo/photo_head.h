#pragma once
// A head from photographs: landmarks, curves, outlines and the network's points of all of them become cameras
// and one shape of the base.
//
// Several rounds: cameras on the base's own shape; soft deformations with the landmarks; then all of the shape
// space with guide curves and outlines, which slide and are looked for again every round. Where nothing was
// seen the base stays, shaped only by what goes along with it (shape_space.h). Size: no photograph tells how
// large a head is, so it ends near the base's size unless the distance between the pupils is given.
#include "core/detect/photo_face.h"
#include "core/fit/figures.h"
#include "core/photo/outline.h"

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

struct PhotoView2D {
    const Photo* photo = nullptr;  // null: no pixels (no outline is looked for)
    std::string name;
    double focal_35mm = 0;  // as its file says; 0: not said
    PhotoMarks marks;
    std::shared_ptr<const PhotoDetection> found;  // what the network said of it; may be null
};
struct PhotoHeadInput {
    const BaseKit* kit = nullptr;
    std::map<std::string, SurfacePoint> base_points;               // empty: the kit's own
    std::map<std::string, std::vector<SurfacePoint>> base_curves;  // empty: the kit's own
    const ShapeSpace* space = nullptr;
    std::vector<PhotoView2D> photos;
    PhotoHeadSettings settings;
    bool quick = false;  // going on: one round without outlines, and nothing is measured but the photographs
    // to go on from: cameras per photograph (empty: placed anew) and the shape
    std::vector<std::optional<PhotoCamera>> cameras;
    Eigen::VectorXd z;
};

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
struct PhotoHead {
    Points positions;  // every vertex of the base, kit frame, mm
    Eigen::VectorXd z;
    std::vector<PhotoFigures> photos;   // one for each given
    std::vector<std::uint8_t> seen_by;  // per vertex: by how many photographs, 0..2 (2: by two or more)
    std::map<std::string, std::array<double, 3>> region_seen;  // share of each region seen by none, one, two or more
    FitFigures figures;
    std::vector<std::string> notes;  // what to look at, suspicions first
    double seconds = 0;
};
// live: every round's shape and cameras, through Progress' mesh; cancelled: fails with Cancelled.
Result<PhotoHead> fit_photos(const PhotoHeadInput& input, const Progress& progress);

}  // namespace veld
