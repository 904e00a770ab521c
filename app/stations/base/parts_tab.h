#pragma once
// What the base's pieces are: skin, eyes, teeth, tongue, lashes, the rest.
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include "app/stations/base/base_controller.h"

namespace veld {

class PartsTab : public QWidget {
    Q_OBJECT
 public:
    PartsTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();

    Session& s_;
    BaseController& c_;
    QTreeWidget* list_;
    QLabel *hint_, *told_;
    QComboBox *is_, *goes_;
    QLabel* goes_text_;
    QPushButton* again_;
    bool filling_ = false;
};

}  // namespace veld
