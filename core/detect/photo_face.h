#pragma once
// Landmarks and guide curves on a photograph.
//
// The networks look at the picture; the kit's places are carried over from the same networks' points on a
// picture of the base taken from about the same side, by a smooth map in the picture's plane. So the
// networks' own habits cancel as they do on scans. What the photo cannot show (the far ear, the back of the
// head) is left out.
#include "core/detect/face_views.h"
#include "core/io/base_kit.h"

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

// Points and curves in pixels from the upper left corner of the upright picture.
struct PhotoMarks {
    int width = 0, height = 0;
    std::map<std::string, Vec2> points;
    std::map<std::string, std::vector<Vec2>> curves;
    std::map<std::string, Trust> trust;   // expected_mm holds pixels here
    bool operator==(const PhotoMarks&) const = default;
    Trust trust_of(const std::string& name) const {
        const auto at = trust.find(name);
        return at == trust.end() ? Trust{} : at->second;
    }
};
// More than a thirtieth of the face's width may be off.
bool unsure_in_photo(const Trust& trust, const PhotoMarks& marks);
std::string photo_marks_text(const PhotoMarks& marks);
// where: what to call the text in errors
Result<PhotoMarks> parse_photo_marks(std::string_view text, const std::string& where);

struct PhotoDetection {
    PhotoMarks marks;
    std::map<std::string, std::string> left_out;
    double yaw = 0;          // degrees, as the head is turned to the camera; left side shown: positive
    int evaluations = 0;
};
// Fails with NotFound when no face is in the picture.
Result<PhotoDetection> detect_on_photo(FaceNetwork& network, const BaseKit& kit, const Photo& photo);
int merge_found(const PhotoDetection& found, PhotoMarks& into);

}  // namespace veld
