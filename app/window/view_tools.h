#pragma once
// How the views are looked at: fixed views, framing, lens, wire, shading, light. As commands and as a row of tools.
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QToolButton>
#include <QWidget>
#include <functional>

#include "app/views/lights.h"
#include "app/window/commands.h"

namespace veld {

class Scene;
class ViewSet;

class ViewTools : public QWidget {
    Q_OBJECT
 public:
    // frame: goes close to what is selected
    ViewTools(Commands& commands, QMenu* menu, ViewSet& views, Scene& scene, std::function<void()> frame,
              QWidget* parent = nullptr);

 private:
    void add_fixed_views();
    void add_framing(std::function<void()> frame);
    void add_lens();
    void add_surface();
    void add_light();
    void add_choice(QComboBox* box, const CommandInfo& next);
    QAction* tool(const CommandInfo& info, std::function<void()> act);

    Commands& commands_;
    QMenu* menu_;
    ViewSet& views_;
    Scene& scene_;
    QDoubleSpinBox* lens_ = nullptr;
    QComboBox *shading_ = nullptr, *light_ = nullptr;
};

}  // namespace veld
