#pragma once
// The kit's skeleton bent until its skin lies roughly on a figure.
//
// Minimises robust point-to-plane distances of a sample of the skin plus the pulls of known points, with a
// prior that keeps joints near rest, by Gauss-Newton [articulated ICP: Pellegrini et al. 2008]. The size
// of the figure is solved for too. Several stances to start from (pose_start.h), unless limbs are known; large reach
// first, then less; bone lengths and girths once the skin lies near; fingers last.
#include "core/base/progress.h"
#include "core/base/similarity.h"
#include "core/fit/pose_start.h"
#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"
#include "core/rig/pose.h"

namespace veld {

struct Articulated {
    Pose pose;
    Similarity to_kit;  // the surface's frame -> kit size, beside the posed kit
    double fit_mm = 0;  // median distance of the matched skin, in kit size
};

// A joint of the figure that is known.
struct JointPull {
    std::size_t joint = 0;
    Vec3 target = Vec3::Zero();  // in the surface's frame
    bool by_hand = false;        // stays there; else it only says how to begin
};

// surface: upright, about in the kit's size and place (within a hand's breadth and a tenth), without what the figure
// stands on (floor.h). joints: where limbs stand roughly; with fewer than twelve, stances are tried.
// Fails with Cancelled, or DegenerateInput when hardly anything matches or the kit has no joints.
Result<Articulated> articulate(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& pulls,
                               const std::vector<JointPull>& joints, const Progress& progress);

// The kit as it stands in a pose: positions only, everything that hangs on the mesh goes along.
BaseKit posed_kit(const BaseKit& kit, const Pose& pose);

}  // namespace veld
