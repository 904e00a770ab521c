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

// expected: the whole base as it went out, kit frame. first_of: per returned vertex its base vertex or kNone. Units and
// axes are only those that programs write; a head that was made larger by a fifth stays so. Where much of the mesh was
// left as it was, that part says to the last digit how the whole was turned and moved; else a whole figure is put
// back by its feet and the floor. Says each finding in steps.
ReturnFrame find_frame(const BaseKit& kit, const Points& expected, const Points& returned, const std::vector<Index>& first_of, std::vector<ReturnStep>& steps);

}  // namespace veld
