#pragma once
// Skin weights of a shape: smoothed on its own surface, held to so many joints a vertex, and checked.
#include "core/base/result.h"
#include "core/mesh/mesh.h"
#include "core/rig/rig.h"

namespace veld {

struct WeightSettings {
    double smooth_mm = 0;  // how far each joint's hold fades on the shape beyond what the kit says; 0: as the kit says
    int most = 4;          // joints per vertex: 4 or 8
    bool operator==(const WeightSettings&) const = default;
};

// The four heaviest joints of each vertex, then the next four. `next` is empty where nobody has more than four.
struct ShapeWeights {
    SkinWeights first, next;
};

struct WeightCheck {
    Index wrong_sum = 0;   // vertices whose weights do not add up to 1
    Index too_many = 0;    // that hang on more joints than is allowed
    Index strange = 0;     // with a weight below 0, or a joint that is not there
    int most = 0;          // joints on one vertex
    double worst_sum = 0;  // farthest from 1
    bool is_right() const { return wrong_sum == 0 && too_many == 0 && strange == 0; }
};
WeightCheck check_weights(const ShapeWeights& weights, std::size_t joints, int most);

// Heat flow on the shape by one implicit step, cotangents and areas of its own triangles [Desbrun, Meyer, Schroeder,
// Barr 1999]: a hold that ends sharply fades over smooth_mm, whatever the edges' length, and every vertex still adds
// up to 1. Vertices in none of the triangles keep their weights. Then the heaviest joints are kept and made to add up
// to 1; what hangs on nothing hangs on the first joint. shape: mm. Fails with BadInput when settings.most is neither 4
// nor 8.
Result<ShapeWeights> shape_weights(const Points& shape, const std::vector<Triangle>& triangles,
                                   const SkinWeights& weights, std::size_t joints, const WeightSettings& settings);

}  // namespace veld
