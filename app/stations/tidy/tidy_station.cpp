#include "app/stations/tidy/tidy_station.h"

#include "app/ask.h"
#include "app/bench.h"
#include "app/main_window.h"
#include "app/stations/tidy/tidy_panel.h"

namespace veld {

TidyStation::TidyStation(const StationContext& context)
    : c_(context), panel_(new TidyPanel(context.session, context.tidy)) {
    connect(panel_, &TidyPanel::look_changed, this,
            [this] { c_.bench.set_tidy_look(panel_->base_opacity(), panel_->would_remove()); });
    connect(panel_, &TidyPanel::read_recipe, this, [this] { ask_for_steps(true); });
    connect(panel_, &TidyPanel::write_recipe, this, [this] { ask_for_steps(false); });
    connect(panel_, &TidyPanel::write_source, this, [this] { ask_for_source_file(); });
    connect(&c_.tidy, &TidyController::tool_asked_for, panel_, &TidyPanel::select_tool);
    for (const bool larger : {false, true})
        c_.keys.add(Station::Tidy, larger ? Qt::Key_BracketRight : Qt::Key_BracketLeft,
                    [this, larger] { c_.tidy.set_brush_size(next_brush_size(c_.tidy.brush_mm, larger)); });
}

QWidget* TidyStation::panel() { return panel_; }

void TidyStation::ask_for_steps(bool read) {
    const QString filter = tr("Tidy steps (*.json)"), folder = c_.session.files().last_folder();
    const QString path = read ? c_.session.files().open(panel_, tr("Run steps"), folder, filter)
                              : c_.session.files().save(panel_, tr("Save steps"), folder + "/tidy_steps.json", filter);
    if (path.isEmpty()) return;
    c_.session.files().remember_folder_of(path);
    if (read) return c_.tidy.run_recipe_file(path);
    if (auto ok = c_.tidy.write_recipe(path); !ok) c_.session.report(ok.error());
}

void TidyStation::ask_for_source_file() {
    if (!c_.session.state().source()) return;
    const int frame = c_.window.ask(tr("In which frame should the source be written?"),
                                    {tr("As imported"), tr("Upright, in mm"), tr("Cancel")});
    if (frame > 1) return;
    const QString path =
        c_.session.files().save(panel_, tr("Write the source"), c_.session.files().last_folder() + "/source.obj",
                                tr("Meshes (*.obj *.ply *.stl *.glb)"));
    if (path.isEmpty()) return;
    c_.session.files().remember_folder_of(path);
    if (auto ok = c_.tidy.write_source(path, frame == 1); !ok) return c_.session.report(ok.error());
    emit c_.session.noticed(tr("Written: %1").arg(path));
}

}  // namespace veld
