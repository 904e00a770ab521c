#pragma once
// Part of a figure from the front and from the side, in two small views without a header, as panels show it.
#include <QWidget>
#include <array>

#include "app/views/viewport.h"

namespace veld {

class TwoSides : public QWidget {
    Q_OBJECT
 public:
    // Names for those who hear the window.
    TwoSides(const QString& name, const QString& front, const QString& side, QWidget* parent = nullptr);
    Viewport& front() { return *views_[0]; }

 protected:
    // Parallel, about a middle: half_mm of it above and below.
    void frame(const Vec3& middle, double half_mm);

    std::array<CameraLink, 2> cameras_;  // front, side
    std::array<Viewport*, 2> views_{};
};

}  // namespace veld
