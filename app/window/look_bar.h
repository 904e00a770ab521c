#pragma once
// One row under the views: colours, what the fit is held against, cross-section.
#include <QBoxLayout>
#include <QComboBox>
#include <QSlider>
#include <QTimer>
#include <QToolButton>

#include "app/lengths.h"
#include "app/scene/look.h"
#include "app/session.h"

namespace veld {

class LookBar : public QWidget {
    Q_OBJECT
 public:
    explicit LookBar(Session& session, QWidget* parent = nullptr);
    const Look& look() const { return look_; }
    void set_colours(Colouring colours);
    void next_colours();
    // the other one instead of the fit, or back, whatever the way of comparing
    void swap();
    // how smooth shapes of the base are displayed; stands elsewhere, stations without a fit have it too
    QComboBox* level_box() const { return level_; }

 signals:
    void look_changed();
    void cut_taken();  // the plane faces the camera as it stands now

 private:
    void build_colours(QLayout* across);
    void build_compare(QLayout* across);
    void build_cut(QLayout* across);
    void refresh();
    void changed();

    Session& s_;
    Look look_;
    QComboBox *colours_, *against_, *cut_, *level_;
    LengthBox* worst_;
    std::vector<QToolButton*> ways_;
    QSlider *share_, *cut_at_;
    QTimer flicker_;
    bool filling_ = false, swapped_ = false;
    double before_swap_ = 1;
};

}  // namespace veld
