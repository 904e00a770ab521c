#pragma once
// The base's landmarks and guide curves, those first that nobody has looked at.
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include "app/lengths.h"
#include "app/stations/base/base_controller.h"

namespace veld {

class BaseLandmarksTab : public QWidget {
    Q_OBJECT
 public:
    BaseLandmarksTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();
    void show_selection();

    Session& s_;
    BaseController& c_;
    QTreeWidget* list_;
    QLabel *summary_, *what_;
    QPushButton *right_, *within_right_;
    LengthBox* within_;
    bool filling_ = false;
};

}  // namespace veld
