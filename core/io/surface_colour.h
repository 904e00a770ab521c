#pragma once
// What colour a mesh shows at a place of its surface: its texture's, else its vertices'.
#include <optional>

#include "core/io/image.h"
#include "core/mesh/mesh.h"

namespace veld {

class SurfaceColour {
 public:
    SurfaceColour() = default;
    // Decodes the textures; one that cannot be read shows nothing. Textures larger than most_pixels on a
    // side are halved until they are not. mesh: not kept.
    explicit SurfaceColour(const Mesh& mesh, int most_pixels = 1 << 14);

    bool any() const { return any_; }
    // sRGB 0..1. mesh: the one it was made of; fan: a triangle of its triangulation. Nothing where
    // neither a texture nor colours of vertices are.
    std::optional<Vec3> at(const Mesh& mesh, const Triangulation& triangulation, Index fan,
                           const std::array<double, 3>& barycentric) const;

 private:
    std::vector<Pixels> textures_;  // parallel to the mesh's images; empty where one cannot be read
    bool any_ = false;
};

}  // namespace veld
