#pragma once
// The neck of a shape over the base's, from the front and from the side.
#include "app/stations/bank/two_sides.h"
#include "core/morph/share.h"

namespace veld {

class Session;

class NeckView : public TwoSides {
    Q_OBJECT
 public:
    explicit NeckView(Session& session, QWidget* parent = nullptr);
    // shape: null, nothing to show; moved: by how much it is shown moved
    void show_shape(std::shared_ptr<const Points> shape, const Vec3& moved);
    QSize sizeHint() const override { return {264, 132}; }

 private:
    Session& s_;
    std::shared_ptr<DisplayMesh> mesh_;
    std::shared_ptr<const BaseKit> of_;  // whose mesh that is
};

}  // namespace veld
