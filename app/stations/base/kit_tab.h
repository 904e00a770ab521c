#pragma once
// The kit as a whole: where it is kept, what it can do, what is missing for the rest.
#include <QPushButton>
#include <QTreeWidget>

#include "app/stations/base/base_controller.h"

class QLabel;

namespace veld {

class PathLabel;

class KitTab : public QWidget {
    Q_OBJECT
 public:
    KitTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;

 private:
    void refresh();
    void fill();
    void mend(QTreeWidgetItem* item);
    void save();
    void save_as();
    void share();

    Session& s_;
    BaseController& c_;
    PathLabel* folder_;
    QLabel *counts_, *report_, *trial_;
    QTreeWidget* list_;
    QPushButton *save_, *save_as_, *again_, *share_, *try_;
};

}  // namespace veld
