#pragma once
// The face network looked at one surface from several sides, its points brought back onto the surface.
//
// The network's error on plain renders is systematic, point by point: it is the same on the base as on a
// scan when both are seen from the same side in the same light. So nothing here is compared with
// anatomy; a scan's points are compared with the base's own points of the same views.
#include <optional>
#include <span>

#include "core/base/progress.h"
#include "core/detect/face_network.h"
#include "core/detect/surface_view.h"
#include "core/kit/base_kit.h"

namespace veld {

// Of the network's points: the inner edges of the lips from corner to corner, without the corners.
constexpr int kUpperInnerLip[] = {191, 80, 81, 82, 13, 312, 311, 310, 415};
constexpr int kLowerInnerLip[] = {95, 88, 178, 87, 14, 317, 402, 318, 324};

bool one_of(std::span<const int> points, int point);
// Is that point on the edge of a lid; and of which eye?
bool on_lid(int point);
bool of_left_eye(int point);

// Points of one face: the mesh's 468, then the right eye's 76, then the left eye's.
constexpr int kSeenPoints = kFacePoints + 2 * kEyePoints;
using SeenFace = std::vector<std::optional<Vec3>>;  // kSeenPoints; nothing where it did not meet the surface

struct FaceView {
    double yaw = 0, pitch = 0;  // degrees
    Skin skin = Skin::Clay;
    bool eyes = false;  // the iris network looks too
};
// The views that detection uses: clay, and skin colours as well when the surface has them.
std::vector<FaceView> face_views(bool coloured);
int evaluations_of(const std::vector<FaceView>& views);

// The frame that cameras stand in: the face upright, facing +Z, in the base's size.
struct FacePlace {
    Vec3 centre = Vec3::Zero();
    double radius = 150;  // mm, half a picture's height
};
FacePlace face_place(const BaseKit& kit);

struct SeenView {
    FaceView view;
    double sure = 0;     // what the network says: is that a face
    SeenFace points;     // empty when it is none
    double lip_gap = 0;  // mm between the inner edges of the lips in the middle, as seen; the network's own
};
// One evaluation a view, two more where the eyes are looked at.
std::vector<SeenView> see_face(FaceNetwork& network, const SurfaceLook& look, const FacePlace& place,
                               const std::vector<FaceView>& views, const Progress& progress = {});

// What the network says of the base itself; made once for a kit.
struct FaceReference {
    FacePlace place;
    std::vector<SeenView> views;    // face_views(true)
    std::vector<double> spread_mm;  // per point: how far apart the views put it
    SeenFace mean;                  // per point, over the views
};
// Fails with BadInput when the network sees no face on the base.
Result<FaceReference> face_reference(FaceNetwork& network, const BaseKit& kit);

// The base as it is looked at: lashes are left out, scans have none.
SurfaceLook look_at_base(const BaseKit& kit, bool colours = true);

// Middle of the views that saw the point [Weiszfeld 1937: where the distances add up to the least], and
// how far they lie from it (root mean square).
struct Middle {
    Vec3 place = Vec3::Zero();
    double spread = 0;
};
std::optional<Middle> middle_of(const std::vector<Vec3>& points);

}  // namespace veld
