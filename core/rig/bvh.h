#pragma once
// Motion in BVH files: a skeleton by its offsets, then a line of numbers for each frame. An open, plain format.
#include "core/base/result.h"
#include "core/rig/pose.h"

namespace veld {

struct Motion {
    std::vector<Joint> joints;  // at rest, in the file's own unit and axes; parents first; ends of chains are left out
    std::vector<std::vector<Mat3>> turns;  // per frame, per joint: against its parent
    double frame_seconds = 1.0 / 30;
};

// Fails as read_file, and with BadFile naming the line.
Result<Motion> read_bvh(const std::string& path);
Result<Motion> bvh_from(std::string_view text, const std::string& what);
std::string bvh_text(const Motion& motion);

// Which of the motion's joints moves which of these: by name, written in any of the usual ways; -1: none.
std::vector<int> joints_by_name(const Motion& motion, const std::vector<Joint>& joints);

// The motion on other joints: bones point as the motion's do, whatever pose either skeleton rests in; what has no
// joint in the motion goes with its parent. Where the figure goes is left out. Fails with BadInput where hardly a
// joint is known by name, saying which are looked for.
Result<std::vector<Pose>> motion_on(const Motion& motion, const std::vector<Joint>& joints);

}  // namespace veld
