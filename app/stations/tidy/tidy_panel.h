#pragma once
// Tidy: straighten, choose, clean, ignore; and the list of what was done.
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "app/sections.h"
#include "app/stations/tidy/tidy_controller.h"
#include "app/stations/tidy/tool_form.h"

namespace veld {

class TidyPanel : public QWidget {
    Q_OBJECT
 public:
    TidyPanel(Session& session, TidyController& tidy, QWidget* parent = nullptr);

    double base_opacity() const { return base_over_->isChecked() ? base_fade_->value() / 100.0 : 0; }
    // faces that the tool shown would take away: highlighted while its numbers move
    const FaceMask& would_remove() const { return would_remove_; }
    void select_tool(Tool tool);

 signals:
    void look_changed();
    void read_recipe();
    void write_recipe();
    void write_source();

 private:
    QWidget* stand_page();
    QWidget* select_page();
    QWidget* clean_page();
    QWidget* ignore_page();
    QWidget* steps_box();
    QToolButton* mode_button(TidyMode mode, const char* icon, const QString& text, const QString& tip);
    void turn(double pitch, double yaw, double roll);
    void refresh();
    void tool_edited();

    Session& s_;
    TidyController& tidy_;
    std::map<TidyMode, QToolButton*> modes_;
    Sections* pages_ = nullptr;
    QLabel *chosen_, *tool_what_, *needs_, *ignored_, *preview_note_;
    QCheckBox *base_over_, *front_only_;
    QSlider* base_fade_;
    QDoubleSpinBox* size_;
    QComboBox* tool_;
    ToolForm* form_;
    QToolButton* cut_line_;
    QPushButton *apply_, *preview_, *keep_, *drop_, *ignore_selected_, *match_selected_;
    QListWidget* steps_;
    QTimer edited_;
    FaceMask would_remove_;
    std::vector<Tool> tools_;
};

}  // namespace veld
