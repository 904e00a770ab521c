#pragma once
// The base's mesh wearing a composed skin, as a view shows it.
#include "app/scene/scene.h"
#include "app/stations/skin/shown_skin.h"
#include "core/mesh/subdivide.h"

namespace veld {

class WornMesh {
 public:
    // On the shape and with the pictures of now; level: subdivisions for the eye. What did not change since is kept.
    void dress(const ShownSkin& shown, int level, Scene& scene);
    const std::shared_ptr<DisplayMesh>& mesh() const { return mesh_; }
    // A part of a tile's picture, `where` of it; false: that tile is not worn.
    bool patch(const std::string& tile, const QImage& part, const QRect& where, int size);

 private:
    void make(const ShownSkin& shown, int level);

    std::shared_ptr<DisplayMesh> mesh_;
    std::shared_ptr<const Subdivided> fine_;
    std::shared_ptr<const BaseKit> of_;
    std::shared_ptr<const Points> shape_;
    int level_ = -1;
    std::size_t tiles_ = 0;
    std::map<std::string, std::size_t> image_of_;            // tile -> of the mesh's images
    std::map<std::string, std::pair<qint64, qint64>> worn_;  // which picture and normals each tile shows
};

}  // namespace veld
