#pragma once
// A face detector, a network of 468 face points and an iris network, run on the CPU by OpenCV.
//
// Pictures are plain pixels, x right, y down, in pixel units where the first pixel's middle is
// (0.5, 0.5). What each number of the networks' outputs means is written in data/face-network.
#include <memory>

#include "core/base/types.h"
#include "core/io/image.h"

namespace veld {

struct FaceBox {
    Vec2 centre = Vec2::Zero(), size = Vec2::Zero();
    Vec2 right_eye = Vec2::Zero(), left_eye = Vec2::Zero();  // the subject's own
    Vec2 nose = Vec2::Zero(), mouth = Vec2::Zero();
    double score = 0;  // 0..1
};

// A square of a picture: side in pixels, turned so that `angle` (radians, y down) becomes level.
struct FaceCrop {
    Vec2 centre = Vec2::Zero();
    double side = 1, angle = 0;
};

constexpr int kFacePoints = 468;
struct FaceMesh {
    std::vector<Vec2> points;   // 468, in the picture
    std::vector<double> depth;  // parallel: away from the camera in pixels of the picture, from a zero of its own
    double sure = 0;            // 0..1; a face only above kFaceGate
};
constexpr double kFaceGate = 0.9;

// 0-8 lower lid outer to inner, 9-15 upper lid outer to inner, 71 pupil, 72-75 rim of the iris
constexpr int kEyePoints = 76;

class FaceNetwork {
 public:
    FaceNetwork();
    ~FaceNetwork();
    // Every face in the picture, best first; boxes that overlap by more than 0.3 count once.
    std::vector<FaceBox> detect(const Pixels& picture, double least_score = 0.4);
    FaceMesh mesh(const Pixels& picture, const FaceCrop& crop);
    std::vector<Vec2> eye(const Pixels& picture, const FaceCrop& crop, bool left);
    int evaluations() const { return evaluations_; }  // of any network, since it was made

 private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
    int evaluations_ = 0;
};

// Where to look for the face mesh: from a box, or from an earlier mesh (a second pass is surer).
FaceCrop crop_of(const FaceBox& box);
FaceCrop crop_of(const FaceMesh& mesh);
// Around one eye of a mesh.
FaceCrop eye_crop(const FaceMesh& mesh, bool left);

}  // namespace veld
