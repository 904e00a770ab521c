#pragma once
// Where a base folds onto itself: between the lips, in the lid gap, in the nostrils.
//
// A camera hardly sees such places, so a scan has nothing there to match, and two sheets of skin
// lie face to face that must not cross.
#include "core/landmark/landmarks.h"
#include "core/mesh/mesh.h"

namespace veld {

// Per vertex 0..1: the share of the directions above the surface in which one sees out (64 rays of
// reach_mm, cosine-weighted [ambient occlusion, Zhukov, Iones, Kronin 1998]). Only for vertices with wanted != 0;
// others get 1.
std::vector<double> openness(const Points& positions, const std::vector<Triangle>& triangles, const VertexMask& wanted,
                             double reach_mm);

// A vertex and the place of the opposite sheet that faces it across a narrow gap.
struct ContactPair {
    Index vertex = kNone;
    std::array<Index, 3> other{kNone, kNone, kNone};
    std::array<double, 3> weights{1, 0, 0};
};
// Pairs no farther than reach_mm apart, only for vertices with openness below `below`.
std::vector<ContactPair> contact_pairs(const Points& positions, const std::vector<Triangle>& triangles,
                                       const std::vector<double>& open, double reach_mm, double below);

}  // namespace veld
