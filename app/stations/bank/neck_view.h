#pragma once
// The neck of a shape over the base's, from the front and from the side.
#include <QWidget>
#include <array>

#include "app/views/viewport.h"
#include "core/morph/share.h"

namespace veld {

class Session;

class NeckView : public QWidget {
    Q_OBJECT
 public:
    explicit NeckView(Session& session, QWidget* parent = nullptr);
    // shape: null, nothing to show; moved: by how much it is shown moved
    void show_shape(std::shared_ptr<const Points> shape, const Vec3& moved);
    QSize sizeHint() const override { return {264, 132}; }

 private:
    Session& s_;
    std::array<CameraLink, 2> cameras_;  // front, side
    std::array<Viewport*, 2> views_{};
    std::shared_ptr<DisplayMesh> mesh_;
    std::shared_ptr<const BaseKit> of_;  // whose mesh that is
};

}  // namespace veld
