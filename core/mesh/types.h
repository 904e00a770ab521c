#pragma once
// The words that every module shares. Positions are double precision, in millimetres, Y up,
// the subject facing +Z with its own left at +X, once a file has been read.
#include <Eigen/Core>
#include <Eigen/Geometry>
#include <array>
#include <cstdint>
#include <limits>
#include <vector>

namespace veld {

using Vec2 = Eigen::Vector2d;
using Vec3 = Eigen::Vector3d;
using Mat3 = Eigen::Matrix3d;
using Points = std::vector<Vec3>;
using Index = std::uint32_t;
using Triangle = std::array<Index, 3>;
constexpr Index kNone = std::numeric_limits<Index>::max();

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
};

}  // namespace veld
