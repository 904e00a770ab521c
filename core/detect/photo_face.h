#pragma once
// Landmarks and guide curves on a photograph.
//
// The networks look at the picture; the kit's places are carried over from the same networks' points on a
// picture of the base taken from about the same side, by a smooth map in the picture's plane. So the
// networks' own habits cancel as they do on scans. What the photo cannot show (the far ear, the back of the
// head) is left out.
#include "core/detect/face_views.h"
#include "core/kit/base_kit.h"
#include "core/landmark/photo_marks.h"
#include "core/spatial/photo_camera.h"

namespace veld {

// A photograph upright as it was taken: turned by what its EXIF says.
struct Photo {
    std::string name;
    Pixels pixels;
    double focal_35mm = 0;  // 0: not said, or not true any more
    bool cut = false;       // to another shape than it was taken in: its lens and its middle are not known
};
// encoded: as decode_image() takes it. Fails with BadFile and the photo's name.
Result<Photo> decode_photo(const Image& encoded, PixelBits bits = PixelBits::Eight);
Result<Photo> read_photo(const std::string& path);

// A place of the base and where the network puts it in the photograph; its own error cancelled as above.
struct FaceSample {
    SurfacePoint place;
    Vec2 pixel = Vec2::Zero();
    double deeper_mm = 0;  // how much farther away than on the base, seen from the same side at the same size
};
// A face in a picture.
struct PhotoFace {
    Vec2 centre = Vec2::Zero();
    double size = 0;  // pixels, of its box
    double sure = 0;
};
// All that are confirmed, largest first.
std::vector<PhotoFace> faces_on_photo(FaceNetwork& network, const Photo& photo);

// Points and curves of the head that photographs can show: not those under the hair or at the far side.
bool marked_on_photos(const std::string& name);

struct PhotoDetection {
    PhotoMarks marks;
    std::map<std::string, std::string> left_out;
    double yaw = 0;    // degrees, as the head is turned to the camera; left side shown: positive
    double pitch = 0;  // the same, from above: positive
    double roll = 0;   // the picture turned clockwise: positive; only of a profile
    double pixels_per_mm = 0;
    bool by_outline = false;            // a profile, found by its outline (photo/profile.h); no samples
    std::optional<PhotoCamera> camera;  // of a profile: where it may have stood
    double sure = 0;                    // that it is a face, 0..1
    std::vector<FaceSample> samples;    // of the network's points on skin that faces the camera
    std::vector<PhotoFace> faces;       // all that are in the picture, largest first
    int evaluations = 0;
};
// NotFound, and what to do about it.
Error no_face_in(const Photo& photo);
// reference: null, or what face_reference() said of this kit. which: of the picture's faces, largest first. Fails with
// NotFound when no face is in the picture, or not so many.
Result<PhotoDetection> detect_on_photo(FaceNetwork& network, const BaseKit& kit, const Photo& photo,
                                       const FaceReference* reference = nullptr, std::size_t which = 0);
int merge_found(const PhotoDetection& found, PhotoMarks& into);

}  // namespace veld
