#pragma once
// Landmarks and guide curves on a photograph.
//
// File form: a landmark file whose points are [x, y, 0] in pixels, with "photo":{"width":w,"height":h}.
#include "core/landmark/landmarks.h"

namespace veld {

// More than a thirtieth of the face's width may be off.
bool unsure_in_photo(const Trust& trust, const PhotoMarks& marks);
std::string photo_marks_text(const PhotoMarks& marks);
// where: what to call the text in errors
Result<PhotoMarks> parse_photo_marks(std::string_view text, const std::string& where);

}  // namespace veld
