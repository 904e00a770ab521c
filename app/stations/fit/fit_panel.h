#pragma once
// Fit: a few settings, start, progress, cancel, and how the result is looked at.
#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QProgressBar>
#include <QSlider>
#include <QPushButton>
#include <QWidget>
#include <map>

#include "app/session.h"

namespace veld {

struct FitLook {
    double fade = 1;        // 0 source, 1 fit
    bool distance = false;  // colours by distance
    double worst_mm = 1;    // end of the colour scale
};

class FitPanel : public QWidget {
    Q_OBJECT
   public:
    explicit FitPanel(Session& session, QWidget* parent = nullptr);
    const FitLook& look() const { return look_; }
    void set_distance_colours(bool on) { distance_->setChecked(on); }

   signals:
    void look_changed();

   private:
    void build_settings(QBoxLayout* column);
    void build_covered(QBoxLayout* column);
    void build_run(QBoxLayout* column);
    void build_looks(QBoxLayout* column);
    void refresh();
    void edit(const QString& label, const std::function<void(FitSettings&)>& change, const std::string& merge = {});
    void remove_fit();

    Session& s_;
    FitLook look_;
    QComboBox* part_;
    QCheckBox *true_size_, *curves_, *distance_;
    std::map<std::string, QCheckBox*> covered_;
    QDoubleSpinBox *detail_, *scale_;
    QSlider* fade_;
    QPushButton *start_, *cancel_, *remove_;
    QProgressBar* bar_;
    QLabel *hint_, *result_, *notes_;
    QWidget* looks_;
    bool filling_ = false;
};

}  // namespace veld
