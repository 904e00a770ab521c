#pragma once
// A box around a box that is turned, scaled and moved.
#include "core/base/similarity.h"

namespace veld {

inline Box placed(const Box& box, const Similarity& by) {
    Box out;
    if (box.empty()) return out;
    for (int corner = 0; corner < 8; ++corner)
        out.add(by(Vec3(corner & 1 ? box.high.x() : box.low.x(), corner & 2 ? box.high.y() : box.low.y(),
                        corner & 4 ? box.high.z() : box.low.z())));
    return out;
}

}  // namespace veld
