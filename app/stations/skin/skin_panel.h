#pragma once
// A subject's skins, their layers, the brushes, and what goes out.
#include <QCheckBox>
#include <QLabel>
#include <QSlider>
#include <QSpinBox>

#include "app/sections.h"
#include "app/stations/skin/skin_brush_controller.h"
#include "app/widgets.h"

class QFormLayout;
class QLineEdit;

namespace veld {

class LengthBox;

class SkinPanel : public QWidget {
    Q_OBJECT
 public:
    SkinPanel(Session& session, SkinController& skins, SkinBrushController& brushes, QWidget* parent = nullptr);
    bool flat() const { return flat_->isChecked(); }
    bool of_layers() const { return sections_->current() <= 0 || sections_->current() == kCompareSection; }
    bool of_brush() const { return sections_->current() == kBrushSection; }

 private:
    static constexpr int kBrushSection = 1, kCompareSection = 2;
    QWidget* layers_page();
    QWidget* brush_page();
    QWidget* compare_page();
    QWidget* uv_page();
    QWidget* out_page();
    QWidget* skin_row();
    QWidget* recipe_form();
    void refresh();
    void list_skins();
    void list_layers();
    void show_layer();
    void show_brush();
    void show_uv();
    void show_compare();
    void list_stages();
    void list_tones(const SkinLayer& layer);
    void take_tone_of(int i);
    void fill_regions();
    void ask_name();
    void ask_maps();
    void ask_glb();
    SkinOut what_goes_out() const;
    void ask_kit();
    void ask_stage();
    void ask_other_project();
    QString said_of(const SkinLayer& layer) const;
    void fill_menu();

    Session& s_;
    SkinController& skins_;
    SkinBrushController& brushes_;
    Sections* sections_;
    QComboBox *half_, *which_, *look_, *blend_, *size_, *kind_, *tile_, *format_, *heights_, *stage_, *tone_like_,
        *together_, *beside_, *against_;
    QPushButton *menu_, *fit_layer_, *paint_layer_, *wear_, *up_, *down_, *remove_, *bake_, *bake_old_, *brushing_,
        *colour_, *write_, *glb_, *kit_, *only_in_;
    QTreeWidget *layers_, *regions_;
    QSlider *amount_, *light_, *shine_, *tone_, *wipe_;
    QLabel *amount_value_, *light_value_, *shine_value_, *tone_value_, *said_, *brush_hint_, *uv_said_;
    QCheckBox *flat_, *edges_, *not_skin_, *brows_, *mirror_fill_, *grain_, *of_stage_;
    QWidget *of_layer_, *recipe_;
    QAction* remove_stage_;
    LengthBox* radius_;
    QDoubleSpinBox *hardness_, *strength_;
    QSpinBox* level_;
    QLineEdit* pattern_;
    std::map<SkinMap, QCheckBox*> maps_;
    bool filling_ = false;
};

}  // namespace veld
