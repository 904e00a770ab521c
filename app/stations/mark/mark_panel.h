#pragma once
// Mark: which point is asked for, with a picture of where it sits; the list of points and curves, doubts
// first; what looks wrong and its repair.
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QWidget>

#include "app/lengths.h"
#include "app/stations/mark/mark_controller.h"
#include "core/detect/surface_view.h"

namespace veld {

class MarkPanel : public QWidget {
    Q_OBJECT
 public:
    MarkPanel(Session& session, MarkController& controller, QWidget* parent = nullptr);
    QCheckBox* snap_box() const { return snap_; }
    QCheckBox* loupe_box() const { return loupe_; }
    QCheckBox* hold_box() const { return hold_; }

    // how many are marked and unsure, and how far off they are on the whole
    const QString& summary() const { return summary_; }

 signals:
    void loupe_toggled(bool on);
    void hold_toggled(bool on);

 private:
    void build_top();
    void build_list();
    void build_bottom();
    void refresh();
    void refresh_suspicions();
    void add_line(const std::string& name, double off);
    void show_selection();
    QString asked_joint() const;
    void show_picture();
    void selection_by_hand();

    Session& s_;
    MarkController& c_;
    QString summary_;
    QLabel *ask_, *picture_, *finding_text_;
    QWidget* finding_row_;
    QComboBox* set_;
    QTreeWidget* list_;
    QPushButton *find_, *accept_, *accept_within_, *find_joints_;
    LengthBox* within_;
    bool in_pixels_ = false;
    QCheckBox *snap_, *loupe_, *hold_, *joints_;
    QWidget* joints_row_;
    std::vector<Suspicion> suspicions_;
    std::shared_ptr<const BaseKit> look_of_;
    SurfaceLook look_;  // of the base, for the pictures
    bool filling_ = false;
};

}  // namespace veld
