#pragma once
// Landmarks and guide curves on a photograph.
//
// The networks look at the picture; the kit's places are carried over from the same networks' points on a
// picture of the base taken from about the same side, by a smooth map in the picture's plane. So the
// networks' own habits cancel as they do on scans. What the photo cannot show (the far ear, the back of the
// head) is left out.
#include "core/detect/face_views.h"
#include "core/io/base_kit.h"
#include "core/landmark/photo_marks.h"

namespace veld {

// A photograph upright as it was taken: turned by what its EXIF says.
struct Photo {
    std::string name;
    Pixels pixels;
    double focal_35mm = 0;   // 0: not said
};
// encoded: JPEG or PNG. Fails with BadFile and the photo's name.
Result<Photo> decode_photo(const Image& encoded);
Result<Photo> read_photo(const std::string& path);

struct PhotoDetection {
    PhotoMarks marks;
    std::map<std::string, std::string> left_out;
    double yaw = 0;          // degrees, as the head is turned to the camera; left side shown: positive
    int evaluations = 0;
};
// reference: null, or what face_reference() said of this kit. Fails with NotFound when no face is in the picture.
Result<PhotoDetection> detect_on_photo(FaceNetwork& network, const BaseKit& kit, const Photo& photo, const FaceReference* reference = nullptr);
int merge_found(const PhotoDetection& found, PhotoMarks& into);

}  // namespace veld
