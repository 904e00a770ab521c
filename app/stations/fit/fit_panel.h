#pragma once
// Fit: what is fitted and how, region by region; start, go on, cancel; the tries that were made.
#include <QBoxLayout>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <map>

#include "app/sections.h"
#include "app/session.h"
#include "app/stations/fit/photos_tab.h"
#include "app/stations/fit/regions_tab.h"
#include "app/stations/fit/tries_tab.h"

namespace veld {

class FitPanel : public QWidget {
    Q_OBJECT
 public:
    FitPanel(Session& session, RegionController& regions, PhotoController& photos, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;  // photographs are looked at when somebody looks

 private:
    QWidget* build_whole();
    void build_preset(QBoxLayout* column);
    void build_switches(QBoxLayout* column);
    void build_numbers(QBoxLayout* column);
    void build_run(QBoxLayout* column);
    void refresh();
    void refresh_settings();
    void refresh_left_out();
    void edit(const QString& label, const std::function<void(FitSettings&)>& change, const std::string& merge = {});

    Session& s_;
    PhotoController& photos_;
    Sections* sections_;
    QWidget* run_;
    std::shared_ptr<const void> tab_for_;  // the subject's photographs that brought their tab up
    QComboBox *preset_, *part_;
    QCheckBox *true_size_, *surface_, *curves_, *pose_, *shut_mouth_, *known_heads_, *follow_;
    QDoubleSpinBox *detail_, *band_;
    QSlider* symmetry_;
    QLabel* symmetry_text_;
    QPushButton *start_, *go_on_, *cancel_, *match_all_;
    QLabel *hint_, *changed_, *left_out_;
    bool filling_ = false;
};

}  // namespace veld
