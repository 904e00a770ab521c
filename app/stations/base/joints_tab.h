#pragma once
// The kit's joints, and which of the file's own joints does what.
#include <QComboBox>
#include <QLabel>
#include <QTreeWidget>

#include "app/stations/base/base_controller.h"

namespace veld {

class JointsTab : public QWidget {
    Q_OBJECT
 public:
    JointsTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();
    void fill();

    Session& s_;
    BaseController& c_;
    QTreeWidget* list_;
    QLabel *hint_, *of_file_, *pose_text_;
    QComboBox *own_, *pose_;
    std::shared_ptr<const BaseKit> filled_with_;
    bool filling_ = false;
};

}  // namespace veld
