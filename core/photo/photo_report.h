#pragma once
// How good a photograph is for making a head from it: what it will cost, and what a better one would be.
//
// From the picture and the face found in it, before any solve. Blur by the measure of Crete, Dolmiere, Ladret and
// Nicolas [2007]: how much a picture loses when it is blurred once more.
#include "core/detect/photo_face.h"

namespace veld {

enum class PhotoGrade { Good, Usable, Poor };
struct PhotoRemark {
    PhotoGrade grade = PhotoGrade::Good;
    std::string
        about;  // "resolution", "blur", "light", "shadow", "expression", "eyes", "turn", "distance", "lens", "face"
    std::string says, costs, better;  // plain sentences; costs and better empty when good
};
struct PhotoReport {
    std::string name;
    int width = 0, height = 0;
    bool face = false;
    double eyes_px = 0, pixels_per_mm = 0;
    double blur = 0;                         // 0 sharp .. 1
    double too_bright = 0, too_dark = 0;     // share of the face
    double one_sided = 0;                    // how many times brighter one half of the face is
    double contrast = 0;                     // brightest tenth of skin against the darkest
    double yaw = 0, pitch = 0, roll = 0;     // degrees
    double smile_mm = 0;                     // how much higher the mouth's corners stand than on the base, and wider
    double lids[2] = {0, 0};                 // opening, share of the base's; right, left; negative: not seen
    double focal_35mm = 0, distance_mm = 0;  // 0: not known
    bool cut = false;                        // to another shape than it was taken in
    PhotoGrade grade = PhotoGrade::Good;     // the worst of the remarks
    std::vector<PhotoRemark> remarks;
};
const char* photo_grade_name(PhotoGrade grade);
// found: null when no face was found. by_hand: how many points a person marked on it.
PhotoReport report_on(const BaseKit& kit, const Photo& photo, const PhotoDetection* found, std::size_t by_hand = 0);

// 0 sharp .. 1 blurred, over a rectangle of the picture.
double blur_of(const Pixels& picture, int left, int top, int width, int height);

}  // namespace veld
