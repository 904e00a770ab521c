#pragma once
// The section that shows where morphs take the joints.
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <array>

#include "app/lengths.h"
#include "app/stations/bank/moves_controller.h"

namespace veld {

class MovesTab : public QWidget {
    Q_OBJECT
 public:
    MovesTab(Session& session, MovesController& moves, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;

 private:
    void build_list(QVBoxLayout* column);
    void build_moves(QVBoxLayout* column);
    void refresh();
    void list_joints();
    QString told() const;

    Session& s_;
    MovesController& moves_;
    QComboBox* morph_;
    QTreeWidget* joints_;
    QLabel* said_;
    std::array<LengthBox*, 3> move_{};
    QCheckBox* alike_;
    QPushButton *fix_all_, *release_, *release_all_;
    bool filling_ = false;
};

}  // namespace veld
