#pragma once
// From the network's points on base and scan to any point of the base.
//
// Both surfaces were seen from the same sides, so a pair (on the base, on the scan) carries the same
// systematic error on both and is a true correspondence of the two surfaces.
#include "core/detect/face_views.h"
#include "core/linalg/smooth_map.h"

namespace veld {

struct SurfacePair {
    Vec3 base = Vec3::Zero(), scan = Vec3::Zero();  // mm, both in the kit frame
    double spread = 0;                              // mm, over the views; of both sides together
    int point = 0;                                  // which of the network's points
};
// Points that at least two common views put on both surfaces, by the middle of those views.
std::vector<SurfacePair> pairs_of(const FaceReference& reference, const std::vector<SeenView>& scan);
// The pairs of one view alone.
std::vector<SurfacePair> pairs_of_view(const FaceReference& reference, const SeenView& view);

// The smooth map through the pairs, the steadier ones counting more.
SmoothMap map_through(const std::vector<SurfacePair>& pairs);

}  // namespace veld
