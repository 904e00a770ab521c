#pragma once
// Which half of a head shows its skin better: seen more, lit better, sharper.
#include <string>
#include <vector>

#include "core/base/types.h"

namespace veld {

enum class SkinHalf { Both, Left, Right };  // the person's own
inline constexpr SkinHalf kSkinHalves[] = {SkinHalf::Both, SkinHalf::Left, SkinHalf::Right};
const char* skin_half_name(SkinHalf half);  // "left"

// One region of both halves; [0] left, [1] right.
struct HalfFigures {
    std::string region;         // without _l and _r
    double seen[2] = {0, 0};    // share of its vertices
    double light[2] = {1, 1};   // how light it was lit, against a well lit place; 1: not told
    double detail[2] = {0, 0};  // mean step of the logarithm of lightness over half a millimetre
};
// Both: neither is clearly better. One is where it is seen by a fifth of the region more, else where it is lit by a
// quarter more, else where its detail is by a third more.
SkinHalf better_half(const HalfFigures& figures);

// What was seen near one vertex.
struct HalfPlace {
    std::string region;
    bool left = true, seen = false;
    double light = 1, detail = -1;  // detail below 0: not known
};
std::vector<HalfFigures> half_figures(const std::vector<HalfPlace>& places);

}  // namespace veld
