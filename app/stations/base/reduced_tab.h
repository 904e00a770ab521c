#pragma once
// Meshes of fewer vertices that go along with the base.
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include "app/stations/base/base_controller.h"

namespace veld {

class ReducedTab : public QWidget {
    Q_OBJECT
 public:
    ReducedTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();
    void ask_for_file();

    Session& s_;
    BaseController& c_;
    QLabel *hint_, *figures_;
    QTreeWidget* list_;
    QPushButton* remove_;
    bool filling_ = false;
};

}  // namespace veld
