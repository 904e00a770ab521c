#pragma once
// The joints and skin weights of a glTF scene; for the readers in this folder only.
#include "core/io/gltf_access.h"
#include "core/io/mesh_file.h"

namespace veld {

class GltfSkins {
 public:
    // model must outlive it
    explicit GltfSkins(const tinygltf::Model& model);

    // From a node to the scene.
    const Eigen::Affine3d& world(int node) const { return world_[static_cast<std::size_t>(node)]; }
    // Takes in the weights of `count` vertices from `first` on of the joined mesh. Returns how each of them comes into
    // the scene (glTF 2.0, 3.7.3.3); empty: no skin moves them.
    std::vector<Eigen::Affine3d> add(const tinygltf::Primitive& primitive, int skin, Index first, Index count);
    // What was taken in, for a mesh of so many vertices; none: the scene has no skin. notes: what was not as it
    // should be.
    std::optional<FileSkin> take(std::size_t vertices, std::vector<std::string>& notes);

 private:
    using Influence = std::pair<int, double>;  // node, weight
    void find_worlds(int node, const Eigen::Affine3d& parent, int depth);
    std::vector<std::vector<Influence>> influences(const tinygltf::Primitive& p, const tinygltf::Skin& skin,
                                                   Index count);

    const tinygltf::Model& model_;
    const GltfAccess access_;
    std::vector<Eigen::Affine3d> world_;
    std::vector<int> parent_;
    std::vector<std::vector<Influence>> of_;  // per vertex of the joined mesh
    std::vector<char> is_joint_;              // per node
    bool any_skin_ = false, any_weights_ = false;
    std::size_t uneven_ = 0, unreadable_ = 0;
};

}  // namespace veld
