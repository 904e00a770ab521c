#pragma once
// Bank, by region: a region is picked on the map or the model, and up to eight shapes are weighed there.
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QVBoxLayout>
#include <QWidget>

#include "app/stations/bank/bank_controller.h"
#include "app/stations/bank/face_map.h"

namespace veld {

class RegionTab : public QWidget {
    Q_OBJECT
 public:
    RegionTab(Session& session, BankController& bank, QWidget* parent = nullptr);

 protected:
    void showEvent(QShowEvent* event) override;

 private:
    void refresh();
    void build_rows(const std::vector<RegionAmount>& amounts);

    Session& s_;
    BankController& bank_;
    FaceMap* map_;
    const BaseRegions* mapped_ = nullptr;
    QComboBox *region_, *add_;
    QLabel* hint_;
    QVBoxLayout* rows_;
    QPushButton* clear_;
    std::vector<std::string> shown_;  // morphs of the rows
    std::string shown_region_;
    struct Row {
        QWidget* widget;
        QSlider* slider;
        QDoubleSpinBox* spin;
    };
    std::vector<Row> row_widgets_;
    bool filling_ = false;
};

}  // namespace veld
