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
#include "core/photo/head_record.h"
#include "core/photo/outline.h"

namespace veld {

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
