#pragma once
// From encoded photographs to what a photo head needs: decoded, upright, the face found, marks put, graded.
#include "core/detect/reference_store.h"
#include "core/photo/photo_report.h"
#include "core/photo/profile.h"

namespace veld {

struct LookedAt {
    Photo photo;
    std::shared_ptr<const PhotoDetection> found;  // null: no face
    PhotoMarks marks;                             // those given; what was found joins them, kept ones stay
    PhotoReport report;
    bool which_face = false;  // several of nearly one size, and none was selected
};
struct LookOptions {
    const FaceReference* reference = nullptr;  // null: kept_face_reference
    const ShapeSpace* space = nullptr;         // for heads from the side; null: a smooth one is made when it is needed
    std::vector<int> face;                     // per photograph: which face, largest 0; shorter or -1: the largest
    bool find = true;                          // false: marks as they are, but the network's points all the same
};
// marks: per photograph, shorter or of width 0: none yet. Fails with BadFile and the photograph's name, Cancelled.
Result<std::vector<LookedAt>> look_at_photos(const BaseKit& kit, const std::vector<Image>& photos,
                                             const std::vector<PhotoMarks>& marks, const LookOptions& options,
                                             const Progress& progress);

// A photo head's views of them; points into `looked`.
std::vector<PhotoView2D> views_of(const std::vector<LookedAt>& looked);

}  // namespace veld
