#pragma once
// The neck of a shape against the base's, as wire, from the front and from the side.
#include <QWidget>

#include "core/morph/share.h"

namespace veld {

class NeckView : public QWidget {
    Q_OBJECT
 public:
    explicit NeckView(QWidget* parent = nullptr);
    // shape: null, nothing to show; moved: by how much it is shown moved
    void show_shape(std::shared_ptr<const BaseKit> kit, std::shared_ptr<const Points> shape, const Vec3& moved);
    QSize sizeHint() const override { return {264, 132}; }

 protected:
    void paintEvent(QPaintEvent* event) override;

 private:
    std::shared_ptr<const BaseKit> kit_;
    std::shared_ptr<const Points> shape_;
    Vec3 moved_ = Vec3::Zero();
    std::vector<std::pair<Index, Index>> edges_;  // of the neck
    std::shared_ptr<const BaseKit> edges_of_;
};

}  // namespace veld
