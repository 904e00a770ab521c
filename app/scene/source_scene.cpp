#include "app/scene/source_scene.h"

#include "app/prepared_source.h"
#include "app/theme.h"
#include "core/base/placed_box.h"
#include "core/tidy/selection.h"

namespace veld {
namespace {

constexpr double kFigureMm = 1200;  // taller: a whole figure

}  // namespace

Pane SourceScene::pane(const How& how) {
    Pane out;
    out.hint = tr("Drop a scan or sculpt here, or use Gather → Add a source.");
    if (s_.busy() && !s_.fitting() && !s_.tidying())
        out.busy = s_.detecting() ? tr("Finding landmarks…") : tr("Reading…");
    const Source* from = s_.preview() ? s_.preview() : s_.state().source();
    const QString name = from ? QString::fromStdString(from->name) : QString();
    out.title = !from ? tr("Source") : s_.has_preview() ? tr("Preview  %1").arg(name) : tr("Source  %1").arg(name);
    const auto shown = s_.shown_source();
    if (from && !shown && out.busy.isEmpty()) out.busy = tr("Preparing…");
    if (!from || !shown) return out;
    mark(*shown, *from, how.selected);
    out.layers.push_back({shown->display, s_.source_to_view(), theme::kTealClay,
                          how.coloured ? Shading::Colours : how.shading, how.wire, 1});
    return out;
}

void SourceScene::mark(const PreparedSource& shown, const Source& from, const FaceMask& faces) {
    VertexMask selected, ignored;
    if (faces.size() == from.mesh->face_count() && count_selected(faces) > 0)
        selected = shown.as_shown(vertices_of(*from.mesh, faces));
    if (from.ignored && from.ignored->size() == shown.mesh->positions.size()) ignored = shown.as_shown(*from.ignored);
    if (marked_.lock() == shown.display && marked_selected_ == selected && marked_ignored_ == ignored) return;
    shown.display->set_marks(selected, ignored);
    marked_ = shown.display;
    marked_selected_ = std::move(selected), marked_ignored_ = std::move(ignored);
}

void SourceScene::colour(const std::vector<Colour>& colours) {
    const auto before = coloured_.lock();
    const auto now = s_.prepared() ? s_.prepared()->display : nullptr;
    if (before && (before != now || colours.empty())) before->set_colours({}), coloured_.reset();
    if (!now || colours.empty()) return;
    now->set_colours(colours);
    coloured_ = now;
}

Box SourceScene::box() const {
    const auto shown = s_.shown_source();
    const Source* source = s_.state().source();
    if (!shown && !source) return {};
    return placed(shown ? shown->display->box() : bounding_box(source->mesh->positions), s_.source_to_view());
}

bool SourceScene::is_figure() const {
    const Box now = box();
    return !now.empty() && now.size().y() > kFigureMm;
}

Framing SourceScene::subject_framing() const {
    const Box now = box();
    if (now.empty()) return {};
    const Vec3 size = now.size();
    return {now.centre(), 0.55 * std::max(size.y(), 0.75 * std::max(size.x(), size.z()))};
}

}  // namespace veld
