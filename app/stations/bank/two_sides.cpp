#include "app/stations/bank/two_sides.h"

#include <QHBoxLayout>

namespace veld {

TwoSides::TwoSides(const QString& name, const QString& front, const QString& side, QWidget* parent) : QWidget(parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(name);
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(0, 0, 0, 0);
    across->setSpacing(2);
    const std::pair<FixedView, QString> sides[] = {{FixedView::Front, front}, {FixedView::Side, side}};
    for (std::size_t i = 0; i < views_.size(); ++i) {
        views_[i] = new Viewport({}, &cameras_[i]);
        views_[i]->set_bare();
        views_[i]->setAccessibleName(sides[i].second);
        cameras_[i].look_from(sides[i].first);
        across->addWidget(views_[i]);
    }
}

void TwoSides::frame(const Vec3& middle, double half_mm) {
    for (CameraLink& link : cameras_) {
        Camera c = link.camera();
        c.orthographic = true;
        c.frame(middle, half_mm);
        link.set(c);
    }
}

}  // namespace veld
