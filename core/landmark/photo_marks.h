#pragma once
// Landmarks and guide curves on a photograph.
//
// File form: a landmark file whose points are [x, y, 0] in pixels, with "photo":{"width":w,"height":h}.
#include "core/landmark/landmarks.h"

namespace veld {

// Points and curves in pixels from the upper left corner of the upright picture.
struct PhotoMarks {
    int width = 0, height = 0;
    std::map<std::string, Vec2> points;
    std::map<std::string, std::vector<Vec2>> curves;
    std::map<std::string, Trust> trust;  // expected_mm holds pixels here
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

}  // namespace veld
