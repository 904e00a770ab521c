#pragma once
// Catmull-Clark levels of a polygon mesh [Catmull & Clark 1978], refined once per topology by OpenSubdiv.
#include <memory>

#include "core/mesh/mesh.h"

namespace veld {

inline constexpr int kMostLevels = 4;

// Vertices of the base come first among the refined ones, in their order; then one per face, one per edge, level by
// level. UVs are refined linearly. Borders stay sharp, corners round.
class Subdivided {
 public:
    // level 1 to kMostLevels; each has four times the faces. Fails with BadInput on a mesh that cannot be refined.
    static Result<std::shared_ptr<const Subdivided>> make(const Mesh& base, int level);
    ~Subdivided();

    // The refined topology with UVs, groups and materials; positions are those of the base that it was made of.
    const Mesh& mesh() const { return mesh_; }
    Points positions(const Points& base) const;
    // How a refined vertex is made of the base's: weights that add up to 1.
    struct Row {
        const Index* vertex;
        const double* weight;
        std::size_t count;
    };
    Row row(std::size_t refined) const;
    // Values per vertex of the base, taken along; not a number where a value that counts is none.
    std::vector<float> values(const std::vector<float>& base) const;

 private:
    Subdivided();
    struct Inside;
    std::unique_ptr<Inside> inside_;
    Mesh mesh_;
};

}  // namespace veld
