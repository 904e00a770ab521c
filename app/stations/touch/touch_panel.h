#pragma once
// Panel of the Touch up station: brushes, where they may work, and the layer.
#include <QBoxLayout>
#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QSlider>
#include <QTreeWidget>

#include "app/stations/touch/touch_controller.h"

namespace veld {

class TouchPanel : public QWidget {
    Q_OBJECT
 public:
    TouchPanel(Session& session, TouchController& touch, QWidget* parent = nullptr);

 private:
    void build_brushes(QBoxLayout* column);
    void build_numbers(QBoxLayout* column);
    void build_regions(QBoxLayout* column);
    void build_layer(QBoxLayout* column);
    void refresh();
    void fill_regions();

    Session& s_;
    TouchController& c_;
    QButtonGroup* brushes_;
    QDoubleSpinBox *size_, *strength_;
    QComboBox *falloff_, *wipe_region_;
    QCheckBox *mirrored_, *front_, *on_;
    QTreeWidget* regions_;
    QSlider* amount_;
    QLabel *amount_text_, *state_, *figures_, *hint_;
    QWidget* layer_;
    std::shared_ptr<const BaseKit> filled_for_;
    bool filling_ = false;
};

}  // namespace veld
