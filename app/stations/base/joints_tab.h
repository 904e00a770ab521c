#pragma once
// The kit's joints, and which of the file's own joints does what.
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

#include "app/lengths.h"
#include "app/stations/base/base_controller.h"

namespace veld {

class JointsTab : public QWidget {
    Q_OBJECT
 public:
    JointsTab(Session& session, BaseController& controller, QWidget* parent = nullptr);

 private:
    void refresh();
    void fill();
    void build_tie(QVBoxLayout* column);
    void refresh_tie();

    Session& s_;
    BaseController& c_;
    QTreeWidget* list_;
    QLabel *hint_, *of_file_, *pose_text_;
    QComboBox *own_, *pose_, *shown_;
    QWidget* tie_;
    QCheckBox *paint_, *mirrored_;
    LengthBox* size_;
    QPushButton* untie_;
    std::shared_ptr<const BaseKit> filled_with_;
    bool filling_ = false;
};

}  // namespace veld
