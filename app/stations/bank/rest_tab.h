#pragma once
// The section in which a pose is taken out of a shape.
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSlider>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <array>

#include "app/stations/bank/rest_controller.h"

namespace veld {

class RestTab : public QWidget {
    Q_OBJECT
 public:
    RestTab(Session& session, RestController& rest, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;

 private:
    void build_top(QVBoxLayout* column);
    void build_joints(QVBoxLayout* column);
    void build_turns(QVBoxLayout* column);
    void build_views(QVBoxLayout* column);
    void refresh();
    void list_joints();
    void turned();

    Session& s_;
    RestController& rest_;
    QComboBox* from_;
    QPushButton *find_, *clear_, *to_a_, *to_t_, *use_;
    QLabel* said_;
    QTreeWidget* joints_;
    std::vector<std::size_t> listed_;  // joints, in the order of the list
    std::array<QSlider*, 3> slider_{};
    std::array<QDoubleSpinBox*, 3> spin_{};
    QCheckBox* alike_;
    std::array<QComboBox*, RestController::kViews> view_{};
    QLineEdit* name_;
    bool filling_ = false;
};

// What a stock pose is called, in the window's language. -1: at rest; -2: as it stands.
QString stock_pose_name(const RestController& rest, int pose);

}  // namespace veld
