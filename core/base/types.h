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

// Per face or per vertex of a mesh, 1: it is meant (selected, ignored, ...). Two types, so that neither passes for the
// other.
template <class Of>
struct Mask : std::vector<std::uint8_t> {
    using std::vector<std::uint8_t>::vector;
};
using FaceMask = Mask<struct OfFaces>;
using VertexMask = Mask<struct OfVertices>;

// Some faces, vertices or triangles of a mesh by their numbers: types of their own for the same reason.
template <class Of>
struct Indices : std::vector<Index> {
    using std::vector<Index>::vector;
};
using FaceIndices = Indices<struct OfFaces>;
using VertexIndices = Indices<struct OfVertices>;
using TriangleIndices = Indices<struct OfTriangles>;

// Weights on some vertices of a mesh; everywhere else 0.
struct SoftWeights {
    VertexIndices vertex;       // ascending
    std::vector<float> weight;  // parallel, above 0, at most 1
    bool empty() const { return vertex.empty(); }
    bool operator==(const SoftWeights&) const = default;
};

}  // namespace veld
