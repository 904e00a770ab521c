#pragma once
// In which unit, along which axes and where a returned mesh stands, against the shape that it once was.
#include "core/exchange/return_check.h"

namespace veld {

// x -> scale * turn * x + move; turn may mirror.
struct ReturnFrame {
    double scale = 1;
    Mat3 turn = Mat3::Identity();
    Vec3 move = Vec3::Zero();
    Vec3 operator()(const Vec3& p) const { return scale * (turn * p) + move; }
};

// expected: the whole base as it went out, kit frame. first_of: per returned vertex its base vertex or kNone. What is
// repaired unasked: the units and axes that programs write, and a turn and move that what was left as it was proves to
// the last digit; a whole figure is else put back by its feet and the floor. Any other similarity, and a result that
// none explains, is a question; the frame is the one that takes the similarity out unless the answer is Leave. Says
// each finding in steps.
ReturnFrame find_frame(const BaseKit& kit, const Points& expected, const Points& returned,
                       const std::vector<Index>& first_of, ReturnAnswer answer, std::vector<ReturnStep>& steps,
                       std::optional<ReturnQuestion>& question);

}  // namespace veld
