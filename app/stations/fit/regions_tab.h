#pragma once
// The Regions tab of the Fit station: what each region does, and painting regions of one's own.
#include <QBoxLayout>
#include <QButtonGroup>
#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include "app/stations/fit/region_controller.h"

namespace veld {

class RegionsTab : public QWidget {
    Q_OBJECT
 public:
    RegionsTab(Session& session, RegionController& regions, QWidget* parent = nullptr);

 private:
    void build_list(QBoxLayout* column);
    void build_setting(QBoxLayout* column);
    void build_painting(QBoxLayout* column);
    void refresh();
    void fill_list();
    void edit(const std::function<void(RegionSetting&)>& change);

    Session& s_;
    RegionController& c_;
    QTreeWidget* list_;
    QWidget* setting_;
    QButtonGroup* use_;
    QDoubleSpinBox *stiffness_, *smooth_, *fade_, *size_;
    QPushButton *copy_, *remove_;
    QCheckBox *paint_, *mirrored_;
    QWidget* painting_;
    std::vector<std::string> names_;
    bool filling_ = false;
};

}  // namespace veld
