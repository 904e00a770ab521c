#pragma once
// The pose that a shape of the base stands in, told by where each of its vertices lies.
#include "core/kit/base_kit.h"
#include "core/rig/pose.h"

namespace veld {

// The pose once more, from where each vertex of a fit came to lie: places that belong together say more than nearest
// ones. positions: every vertex of the kit, in the frame that the pose leads to.
Pose settled_pose(const BaseKit& kit, const Points& positions, const Pose& pose);

struct FoundPose {
    Pose pose;                        // with the build; joints that hardly turn are at rest
    std::vector<std::size_t> turned;  // joints that are not, the most turned first
    double left_mm = 0;               // median of what pose and build do not explain: the shape itself
};

// Of a shape that nobody posed knowingly: a sculpt whose arms came back lower, a morph made from a figure that did not
// stand as the base. A turn of less than two degrees (four of fingers and of the trunk) is taken for shape.
// Fails with DegenerateInput when the kit has no joints or the shape another number of vertices.
Result<FoundPose> find_pose(const BaseKit& kit, const Points& positions);

// Where the figure stands in a pose that was turned by hand: Pose::move, told by what hangs on the first joint alone.
Vec3 place_of_pose(const BaseKit& kit, const Points& positions, const Pose& pose);

// The shape without that pose, which says where the figure stands as well (Pose::move): every vertex back by its own
// turn, the build kept, its lowest place as low as before. Fails as find_pose() does.
Result<Points> without_pose(const BaseKit& kit, const Points& positions, const Pose& pose);

// A shape at rest as it stands in a pose, about its own joints (kit_joints.h), its lowest place as low as the base's.
// Eyes, teeth and what else hangs on joints go along. Fails as find_pose() does.
Result<Points> in_pose(const BaseKit& kit, const Points& rest, const Pose& pose);

}  // namespace veld
