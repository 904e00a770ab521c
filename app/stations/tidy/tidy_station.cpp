#include "app/stations/tidy/tidy_station.h"

#include "app/ask.h"
#include "app/scene/scene.h"
#include "app/stations/tidy/tidy_panel.h"
#include "app/theme.h"
#include "app/window/main_window.h"

namespace veld {

TidyStation::TidyStation(const StationContext& context)
    : StationPage(context), panel_(new TidyPanel(context.session, context.tidy)) {
    connect(&c_.tidy, &TidyController::changed, this, [this] { refresh({ViewId::Source}); });
    connect(panel_, &TidyPanel::look_changed, this, [this] { refresh({ViewId::Source}); });
    connect(panel_, &TidyPanel::read_recipe, this, [this] { ask_for_steps(true); });
    connect(panel_, &TidyPanel::write_recipe, this, [this] { ask_for_steps(false); });
    connect(panel_, &TidyPanel::write_source, this, [this] { ask_for_source_file(); });
    connect(&c_.tidy, &TidyController::tool_asked_for, panel_, &TidyPanel::select_tool);
    add_brush_keys(c_, Station::Tidy,
                   [this](bool larger) { c_.tidy.set_brush_size(next_brush_size(c_.tidy.brush_mm, larger)); });
}

QWidget* TidyStation::panel() { return panel_; }

QString TidyStation::figures() const { return figures_of_source(c_); }

Pane TidyStation::pane(ViewId which) {
    if (which != ViewId::Source) return StationPage::pane(which);
    Pane out = c_.scene.source.pane({.shading = c_.scene.shading, .wire = c_.scene.wire, .selected = lit()});
    if (panel_->base_opacity() > 0 && c_.session.base_display())
        out.layers.push_back(
            {c_.session.base_display(), {}, theme::kClay, Shading::Clay, false, panel_->base_opacity()});
    out.gesture = c_.tidy.gesture();
    out.brush_mm = c_.tidy.brush_mm;
    out.prompt = prompt();
    out.marks.markers = picked();
    return out;
}

// What is selected, and what the tool would take away.
FaceMask TidyStation::lit() const {
    if (c_.session.has_preview()) return {};
    FaceMask out = c_.tidy.selected();
    const FaceMask& also = panel_->would_remove();
    const Source* source = c_.session.state().source();
    if (!source || also.size() != source->mesh->face_count()) return out;
    if (out.empty()) return also;
    for (std::size_t f = 0; f < out.size(); ++f) out[f] |= also[f];
    return out;
}

// Places picked to straighten by, in the order they were clicked.
std::vector<Marker> TidyStation::picked() const {
    std::vector<Marker> out;
    for (const Vec3& p : c_.tidy.picked()) {
        Marker m;
        m.label = QString::number(out.size() + 1);
        m.name = "picked " + m.label.toStdString();
        m.position = p;
        m.colour = theme::kOchre;
        m.selected = true;
        out.push_back(m);
    }
    return out;
}

QString TidyStation::prompt() const {
    return c_.session.tidying()       ? tr("Working… Esc stops it.")
           : c_.session.has_preview() ? tr("This is a preview. Keep or discard it.")
                                      : c_.tidy.prompt();
}

void TidyStation::clicked(ViewId which, const Ray& ray, Qt::KeyboardModifiers keys) {
    if (which == ViewId::Source) c_.tidy.click(ray, keys);
}
// the base has no gesture here: what follows comes from the source's view alone
void TidyStation::stroke_begun(ViewId, const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    c_.tidy.begin_stroke(ray, pressure, keys);
}
void TidyStation::stroke_moved(ViewId, const Ray& ray, double pressure) { c_.tidy.move_stroke(ray, pressure); }
void TidyStation::stroke_ended(ViewId) { c_.tidy.end_stroke(); }
void TidyStation::line_drawn(ViewId, const Ray& from, const Ray& to) { c_.tidy.cut_line(from, to); }
void TidyStation::outline_drawn(ViewId, const std::vector<Vec2>& clip, const std::array<double, 16>& to_clip,
                                Qt::KeyboardModifiers keys) {
    c_.tidy.outline(clip, to_clip, keys);
}

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
