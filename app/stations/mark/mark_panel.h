#pragma once
// Mark: which point is asked for, the list of points, worst first.
#include <QCheckBox>
#include <QLabel>
#include <QTreeWidget>
#include <QWidget>

#include "app/stations/mark/mark_controller.h"

namespace veld {

class MarkPanel : public QWidget {
    Q_OBJECT
   public:
    MarkPanel(Session& session, MarkController& controller, QWidget* parent = nullptr);

   signals:
    void read_file();
    void write_file();

   private:
    void refresh();
    void show_selection();

    Session& s_;
    MarkController& c_;
    QLabel *ask_, *summary_;
    QTreeWidget* list_;
    bool filling_ = false;
};

}  // namespace veld
