#pragma once
// The colour of a mesh between its texels and vertices, in linear light: what is averaged must be light, not code
// values.
#include <optional>

#include "core/io/image.h"
#include "core/mesh/mesh.h"

namespace veld {

// Pixels between their texels, in linear light, 0..1, with all bits they have. at: texels from the upper left; beyond
// the edge: wrapped around, or the edge's.
Vec3 linear_between(const Pixels& pixels, const Vec2& at, bool wrap);

class SmoothColours {
 public:
    // Decodes the textures of its faces; a texture with more than `per_mm` texels per mm of the surface is averaged
    // down. Both are kept and must outlive it. scale: mm per unit of the mesh.
    SmoothColours(const Mesh& mesh, const Triangulation& fans, double scale, double per_mm);

    bool any() const { return any_; }
    // Nothing where there is neither a texture nor a colour of vertices.
    std::optional<Vec3> at(Index fan, const Vec3& shares) const;
    const std::vector<std::string>& notes() const { return notes_; }  // textures that could not be read

 private:
    const Mesh& mesh_;
    const Triangulation& fans_;
    std::vector<Pixels> textures_;  // parallel to the mesh's images
    std::vector<std::string> notes_;
    bool any_ = false;
};

}  // namespace veld
