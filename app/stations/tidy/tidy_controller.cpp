#include "app/stations/tidy/tidy_controller.h"

#include <algorithm>

#include "app/prepared_source.h"
#include "core/base/file.h"
#include "core/io/mesh_write.h"
#include "core/project/sources.h"
#include "core/spatial/sight.h"
#include "core/tidy/face_colours.h"
#include "core/tidy/recipe.h"

namespace veld {
namespace {

constexpr std::size_t kAtOnce = 1'000'000;  // faces up to which a selection is computed while the user waits

bool uses_selection(const TidyStep& step) { return tool_info(step.tool).selection != NeedsSelection::No; }

}  // namespace

TidyController::TidyController(Session& session, QObject* parent) : QObject(parent), s_(session) {
    connect(&s_, &Session::changed, this, [this] {
        // what was picked or painted lies on another source
        const Source* source = s_.state().source();
        if ((stroking_ || !picked_.empty()) && (!source || source->id != gesture_on_))
            stroking_ = false, picked_.clear();
        emit changed();
    });
}

void TidyController::set_mode(TidyMode mode) {
    mode_ = mode;
    picked_.clear();
    stroking_ = false;
    emit changed();
}

void TidyController::set_brush_size(double mm) {
    brush_mm = std::clamp(mm, 1.0, 300.0);
    emit changed();
}

Gesture TidyController::gesture() const {
    switch (mode_) {
        case TidyMode::Rectangle:
            return Gesture::Rectangle;
        case TidyMode::Lasso:
            return Gesture::Lasso;
        case TidyMode::CutLine:
            return Gesture::Line;
        case TidyMode::Brush:
        case TidyMode::IgnoreBrush:
        case TidyMode::MatchBrush:
        case TidyMode::SmoothBrush:
            return Gesture::Stroke;
        default:
            return Gesture::Turn;
    }
}

Combine TidyController::combine_of(Qt::KeyboardModifiers keys, Combine plain) const {
    if (keys.testFlag(Qt::ControlModifier)) return Combine::Remove;
    if (keys.testFlag(Qt::ShiftModifier)) return Combine::Add;
    return plain;
}

const FaceMask& TidyController::selected() {
    const Source* source = s_.state().source();
    if (!source || source->selection.empty()) {
        mask_.clear(), mask_mesh_.reset(), mask_steps_.clear();
        return mask_;
    }
    const bool same = mask_mesh_ == source->mesh && mask_frame_ == source->upright;
    const auto& steps = source->selection;
    if (same && mask_steps_ == steps) return mask_;
    // one step more than what is known is the usual case
    const bool longer = same && !mask_steps_.empty() && steps.size() > mask_steps_.size() &&
                        std::equal(mask_steps_.begin(), mask_steps_.end(), steps.begin());
    const std::size_t from = longer ? mask_steps_.size() : 0;
    if (!longer) mask_.assign(source->mesh->face_count(), 0);
    for (std::size_t i = from; i < steps.size(); ++i)
        mask_ = apply_select_step(*source->mesh, source->upright, mask_, steps[i], s_.state().kit.get());
    mask_mesh_ = source->mesh, mask_frame_ = source->upright, mask_steps_ = steps;
    return mask_;
}

std::size_t TidyController::selected_count() { return count_selected(selected()); }

void TidyController::select(const SelectStep& step, const QString& label) {
    const Source* source = s_.state().source();
    if (!source) return;
    s_.drop_preview();
    ProjectState next = s_.state();
    std::vector<SelectStep>& steps = next.current()->sources.back().selection;
    const bool fresh = step.combine == Combine::Replace && step.kind != SelectKind::Invert &&
                       step.kind != SelectKind::Grow && step.kind != SelectKind::Shrink;
    if (fresh) steps.clear();
    if (step.kind != SelectKind::None) steps.push_back(step);
    if (source->mesh->face_count() <= kAtOnce || steps.empty()) return s_.change(label, std::move(next));
    // a heavy mesh: the faces are found in the background and known when the step arrives
    auto mask = std::make_shared<FaceMask>();
    const auto kit = s_.state().kit;
    const bool started =
        s_.start_tidy(label, [steps, mask, kit](const Source& from, const Progress& progress) -> Result<Source> {
            *mask = select_faces(*from.mesh, from.upright, steps, kit.get(), progress);
            if (mask->size() != from.mesh->face_count())
                return Error{ErrorCode::Cancelled, "Stopped; the selection is as it was."};
            Source out = from;
            out.selection = steps;
            return out;
        });
    if (!started) return;
    mask_mesh_ = nullptr;
    auto* once = new QObject(this);
    connect(&s_, &Session::changed, once, [this, once, mask, steps] {
        const Source* now = s_.state().source();
        if (!now || now->selection != steps || mask->size() != now->mesh->face_count()) return;
        mask_ = *mask, mask_mesh_ = now->mesh, mask_frame_ = now->upright, mask_steps_ = steps;
        once->deleteLater();
        emit changed();
    });
}

void TidyController::select_simple(SelectKind kind, const QString& label) {
    SelectStep step;
    step.kind = kind;
    select(step, label);
}

void TidyController::clear_selection() {
    const Source* source = s_.state().source();
    if (source && !source->selection.empty()) select_simple(SelectKind::None, tr("Select none"));
}

bool TidyController::hit(const Ray& ray, Vec3& upright_mm, SurfaceHit* on_shown) const {
    const auto shown = s_.shown_source();
    const Source* source = s_.state().source();
    if (!shown || !source) return false;
    const Similarity back = s_.source_to_view().inverse();
    const SurfaceHit found = on_shown ? shown->query->first_hit(back(ray.origin), back.rotation * ray.direction)
                                      : shown->first_hit(back(ray.origin), back.rotation * ray.direction);
    if (!found) return false;
    upright_mm = source->upright(found.position);
    if (on_shown) *on_shown = found;
    return true;
}

void TidyController::begin_stroke(const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
    stroke_ = {};
    stroke_.kind = SelectKind::Brush;
    stroke_.combine = combine_of(keys, Combine::Add);
    stroke_.radius = brush_mm;
    stroke_.front_only = front_only;
    stroke_.towards = -ray.direction.normalized();
    stroking_ = true;
    if (const Source* source = s_.state().source()) gesture_on_ = source->id;
    move_stroke(ray, pressure);
}

void TidyController::move_stroke(const Ray& ray, double pressure) {
    SurfaceHit ignored;
    Vec3 p;
    if (!stroking_ || !hit(ray, p, &ignored)) return;
    // a gap in the surface starts a new stretch: the brush must not reach through the air
    if (!stroke_.path.empty() && (stroke_.path.back() - p).norm() > 6 * stroke_.radius) return;
    stroke_.path.push_back(p);
    stroke_.pressure.push_back(pressure);
}

void TidyController::end_stroke() {
    if (!stroking_) return;
    stroking_ = false;
    if (stroke_.path.empty()) return;
    if (mode_ == TidyMode::Brush) return select(stroke_, tr("Select by brush"));
    TidyStep step;
    if (mode_ == TidyMode::SmoothBrush) {
        step.tool = Tool::Smooth;
        step.numbers = {{"rounds", 6}, {"strength", brush_strength}};
    } else {
        step.tool = Tool::Ignore;
        if ((mode_ == TidyMode::MatchBrush) != (stroke_.combine == Combine::Remove)) step.numbers["match"] = 1;
    }
    stroke_.combine = Combine::Replace;
    step.selection = {stroke_};
    run(std::move(step), false);
}

void TidyController::outline(const std::vector<Vec2>& clip, const std::array<double, 16>& view,
                             Qt::KeyboardModifiers keys) {
    SelectStep step;
    step.kind = SelectKind::Polygon;
    step.combine = combine_of(keys, Combine::Replace);
    step.front_only = front_only;
    step.outline = clip;
    step.view = view;
    select(step, mode_ == TidyMode::Lasso ? tr("Select by lasso") : tr("Select by rectangle"));
}

void TidyController::click(const Ray& ray, Qt::KeyboardModifiers keys) {
    if (mode_ == TidyMode::Turn) return;
    Vec3 p;
    SurfaceHit on_shown;
    const bool colour = mode_ == TidyMode::Colour;
    if (!hit(ray, p, colour ? &on_shown : nullptr)) return;
    if (mode_ == TidyMode::FacePoints || mode_ == TidyMode::FloorPoints) return take_point(p);
    if (colour) return pick_colour(on_shown, keys);
    SelectStep step;
    step.kind = mode_ == TidyMode::Joined ? SelectKind::Connected : SelectKind::Angle;
    step.combine = combine_of(keys, Combine::Replace);
    step.place = p;
    step.degrees = even_degrees;
    select(step, mode_ == TidyMode::Joined ? tr("Select connected") : tr("Select smooth area"));
}

void TidyController::cut_line(const Ray& from, const Ray& to) {
    const auto plane = plane_of_line(from.origin, from.direction, to.origin, to.direction);
    if (!plane) return;
    // a point of the plane near the subject, so that the numbers mean something
    const Source* source = s_.state().source();
    const Vec3 middle = source ? source->upright(bounding_box(source->mesh->positions).centre()) : Vec3(Vec3::Zero());
    emit cut_drawn(plane->nearest(middle), plane->normal);
}

void TidyController::pick_colour(const SurfaceHit& hit, Qt::KeyboardModifiers keys) {
    const auto shown = s_.shown_source();
    SelectStep step;
    step.kind = SelectKind::Colour;
    step.combine = combine_of(keys, Combine::Replace);
    step.tolerance = colour_tolerance / 100;
    const auto colours = face_colours(shown->shown());
    const auto& c = colours[shown->triangulation.triangle_face[hit.triangle]];
    step.colour = {c[0], c[1], c[2]};
    select(step, tr("Select by colour"));
}

void TidyController::take_point(const Vec3& p) {
    picked_.push_back(p);
    gesture_on_ = s_.state().source()->id;
    const std::size_t wanted = mode_ == TidyMode::FacePoints ? 3 : 2;
    if (picked_.size() < wanted) {
        emit changed();
        return;
    }
    static constexpr const char* kFace[] = {"rx", "ry", "rz", "lx", "ly", "lz", "nx", "ny", "nz"};
    static constexpr const char* kFloor[] = {"ax", "ay", "az", "bx", "by", "bz"};
    TidyStep step;
    step.tool = mode_ == TidyMode::FacePoints ? Tool::FacePoints : Tool::FloorPoints;
    for (std::size_t i = 0; i < 3 * wanted; ++i)
        step.numbers[wanted == 3 ? kFace[i] : kFloor[i]] = picked_[i / 3][static_cast<int>(i % 3)];
    set_mode(TidyMode::Turn);
    run(std::move(step), false);
}

QString TidyController::prompt() const {
    static const QString face[] = {tr("Click the middle of the subject's right eye (at the left of the picture)."),
                                   tr("Now the left eye."), tr("Now the tip of the nose.")};
    static const QString floor[] = {tr("Click a point of the floor under one foot."),
                                    tr("Now one under the other foot.")};
    switch (mode_) {
        case TidyMode::FacePoints:
            return face[std::min<std::size_t>(picked_.size(), 2)];
        case TidyMode::FloorPoints:
            return floor[std::min<std::size_t>(picked_.size(), 1)];
        case TidyMode::Joined:
            return tr("Click a component to select all of it. Shift adds, Ctrl removes.");
        case TidyMode::Even:
            return tr("Click an area to select it up to its sharp edges.");
        case TidyMode::Colour:
            return tr("Click a colour to select all that looks like it.");
        case TidyMode::Rectangle:
        case TidyMode::Lasso:
            return tr("Draw around what you want. Shift adds, Ctrl removes. Right button turns the view.");
        case TidyMode::Brush:
            return tr("Paint what you want. Ctrl removes. Right button turns the view.");
        case TidyMode::IgnoreBrush:
            return tr("Paint what the fit must ignore. Ctrl stops ignoring.");
        case TidyMode::MatchBrush:
            return tr("Paint what the fit should match again.");
        case TidyMode::CutLine:
            return tr("Draw a line where the cut goes. What is above it stays; draw again to change it.");
        case TidyMode::SmoothBrush:
            return tr("Paint where the surface is too rough.");
        default:
            return {};
    }
}

void TidyController::run(TidyStep step, bool preview) {
    const Source* source = s_.state().source();
    if (!source) return;
    const bool own = step.selection.empty() && uses_selection(step);
    if (own) step.selection = source->selection;
    const QString label = tr(tool_info(step.tool).label);
    const auto kit = s_.state().kit;
    s_.start_tidy(
        label,
        [step, kit](const Source& from, const Progress& progress) -> Result<Source> {
            auto done = run_step(tidy_state(from), step, kit.get(), progress);
            if (!done) return done.error();
            if (!done->changed) return Error{ErrorCode::Cancelled, done->said};  // worth a line, not a window
            Source out = from;
            take_step(out, step, std::move(*done));
            // what was selected is gone, or has another meaning now
            if (out.mesh != from.mesh || step.tool == Tool::Ignore) out.selection.clear();
            return out;
        },
        preview);
}

void TidyController::redo_from_file() {
    const auto kit = s_.state().kit;
    s_.start_tidy(tr("Reload and redo"),
                  [kit](const Source& from, const Progress& progress) { return redo_recipe(from, *kit, progress); });
}

void TidyController::run_recipe_file(const QString& path) {
    auto bytes = read_file(path.toStdString());
    if (!bytes) return s_.report(bytes.error());
    const auto steps = parse_recipe(bytes->view(), path.toStdString());
    if (!steps) return s_.report(steps.error());
    const auto kit = s_.state().kit;
    s_.start_tidy(tr("Run %n step(s)", nullptr, static_cast<int>(steps->size())),
                  [kit, steps = *steps](const Source& from, const Progress& progress) -> Result<Source> {
                      auto done = run_recipe(tidy_state(from), steps, kit.get(), progress);
                      if (!done) return done.error();
                      Source out = from;
                      take_recipe(out, steps, std::move(*done));
                      return out;
                  });
}

Status TidyController::write_recipe(const QString& path) const {
    const Source* source = s_.state().source();
    if (!source) return Error{ErrorCode::BadInput, "There is no source."};
    return write_file(path.toStdString(), recipe_text(source->recipe));
}

Status TidyController::write_source(const QString& path, bool upright) const {
    const Source* source = s_.state().source();
    if (!source) return Error{ErrorCode::BadInput, "There is no source."};
    if (!upright)
        return write_mesh(path.toStdString(), *source->mesh, millimetres(source->shown_unit) / 1000,
                          "Cleaned; coordinates and unit as they came in");
    return write_mesh(path.toStdString(), upright_copy(*source->mesh, source->upright), 0.001,
                      "Cleaned and straightened; mm, Y up, facing +Z");
}

const FaceMask& TidyController::would_remove(const TidyStep& step) {
    const Source* source = s_.state().source();
    const bool known = source && lit_mesh_ == source->mesh && lit_frame_ == source->upright && lit_step_ == step;
    if (known) return lit_;
    lit_ = source ? faces_taken_away(tidy_state(*source), step) : FaceMask();
    lit_mesh_ = source ? source->mesh : nullptr;
    if (source) lit_frame_ = source->upright;
    lit_step_ = step;
    return lit_;
}

}  // namespace veld
