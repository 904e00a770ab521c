#pragma once
// The kit's expressions.
#include <QLabel>
#include <QListWidget>

#include "app/stations/base/base_controller.h"

namespace veld {

class ExpressionsTab : public QWidget {
    Q_OBJECT
 public:
    ExpressionsTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();

    Session& s_;
    BaseController& c_;
    QLabel* hint_;
    QListWidget* list_;
    bool filling_ = false;
};

}  // namespace veld
