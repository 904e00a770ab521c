#pragma once
// The base's regions, what has no partner on the other side, the neck ring; regions are corrected with a brush.
#include <QCheckBox>
#include <QLabel>
#include <QTreeWidget>

#include "app/lengths.h"
#include "app/stations/base/base_controller.h"

namespace veld {

class BaseRegionsTab : public QWidget {
    Q_OBJECT
 public:
    BaseRegionsTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();

    Session& s_;
    BaseController& c_;
    QTreeWidget* list_;
    QLabel* hint_;
    QCheckBox *paint_, *mirrored_;
    LengthBox* size_;
    bool filling_ = false;
};

}  // namespace veld
