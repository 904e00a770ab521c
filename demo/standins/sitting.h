#pragma once
// A made-up person sits for portraits: pictures by known cameras, and where every landmark is in them.
#include "core/detect/photo_face.h"
#include "core/morph/morph.h"
#include "core/photo/photo_head.h"
#include "demo/standins/made_up_person.h"
#include "demo/standins/picture_of.h"

namespace veld {

struct SittingOptions {
    unsigned seed = 1;
    int photos = 3;              // front; front and side; front, three-quarter and side
    double mark_error_mm = 1.0;  // of each coordinate of the marks, at the face
    double warp_mm = 12;
    double side_turn = 4;  // the side is turned by up to this many degrees from a true profile
    int width = 1000, height = 1250;
};
struct SittingPhoto {
    Photo photo;         // focal_35mm is what the file would say
    PhotoCamera camera;  // kit frame, mm
    PhotoMarks marks;    // of what is seen, with their error
    PhotoMarks true_marks;
};
struct Sitting {
    SyntheticSubject subject;
    std::vector<SittingPhoto> photos;
};
// Lenses of 24 to 135 mm, 0.4 to 3 m away (so that the head fills between a third and two thirds of the height),
// turned and rolled by a few degrees, light and noise of their own. The same seed, the same person.
Sitting make_sitting(const BaseKit& kit, const SittingOptions& options);

// Heads of other made-up people, as morphs in the group "heads/made up".
std::vector<Morph> made_up_heads(const BaseKit& kit, int count, unsigned first_seed = 1001, double warp_mm = 12);

struct PhotoTruth {
    double surface_median = 0, surface_p95 = 0;  // face to the true surface after rigid alignment, mm
    double place_mean = 0;                       // the face's vertices to their true places, mm
    double focal_worst = 0;                      // share
    double yaw_worst = 0, roll_worst = 0;        // degrees
    double landmark_share = 0;                   // median reprojection as a share of the eyes' distance, worst photo
};
PhotoTruth compare_with_truth(const BaseKit& kit, const Sitting& sitting, const PhotoHead& fit);

}  // namespace veld
