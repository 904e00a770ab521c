#pragma once
// Turn, size and place: how one frame lies in another. fit_similarity.h finds it from points.
#include "core/base/types.h"

namespace veld {

// x -> scale * rotation * x + translation
struct Similarity {
    double scale = 1.0;
    Mat3 rotation = Mat3::Identity();
    Vec3 translation = Vec3::Zero();

    Vec3 operator()(const Vec3& x) const { return scale * (rotation * x) + translation; }
    Similarity inverse() const {
        Similarity out;
        out.scale = 1.0 / scale;
        out.rotation = rotation.transpose();
        out.translation = -out.scale * (out.rotation * translation);
        return out;
    }
    // (a * b)(x) = a(b(x))
    Similarity operator*(const Similarity& b) const {
        return {scale * b.scale, rotation * b.rotation, (*this)(b.translation)};
    }
    bool operator==(const Similarity& b) const {
        return scale == b.scale && rotation == b.rotation && translation == b.translation;
    }
};

}  // namespace veld
