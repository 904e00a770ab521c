#pragma once
// Morphs made for another base become morphs of this one.
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include "app/stations/base/base_controller.h"

namespace veld {

class BringTab : public QWidget {
    Q_OBJECT
 public:
    BringTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();
    void ask_for_project();
    void ask_for_files();

    Session& s_;
    BaseController& c_;
    QPushButton *project_, *files_;
    QLabel* said_;
    QTreeWidget* list_;
    std::shared_ptr<const CarriedBank> listed_;
    bool filling_ = false;
};

}  // namespace veld
