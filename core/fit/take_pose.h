#pragma once
// The pose of a whole figure, taken before its skin is fitted.
#include "core/fit/fit.h"

namespace veld {

// Bends the kit's skeleton as the figure stands, from joints that are marked or from stances: out.pose, and the
// placement beside it. No pose and a note when that cannot be done. Fails with Cancelled.
Status take_pose(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                 const SourceSurface& surface, FitResult& out, const Progress& progress);

// Where the figure's joints are, in the source's coordinates, by its surface and what is marked; joints that were
// placed by hand stay there, and the rest goes on from where it is marked. from_marks: else stances are tried again.
// Fails as placing does, with Cancelled, or with DegenerateInput when the skeleton finds no counterpart.
Result<std::map<std::string, JointMark>> find_joints(const FitInput& input, bool from_marks, const Progress& progress);

}  // namespace veld
