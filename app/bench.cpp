#include "app/bench.h"

#include <QGuiApplication>
#include <QVBoxLayout>
#include <cmath>

#include "app/prepared_source.h"
#include "app/theme.h"
#include "core/kit/kit_surface.h"
#include "core/tidy/selection.h"

namespace veld {

Bench::Bench(Session& session, MarkController& mark, TidyController& tidy, TouchController& touch,
             RegionController& regions, BankController& bank, PhotoController& photos, QWidget* parent)
    : QWidget(parent),
      s_(session),
      mark_(mark),
      tidy_(tidy),
      touch_(touch),
      regions_(regions),
      bank_(bank),
      photos_(photos) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    splitter_ = new QSplitter(Qt::Horizontal);
    splitter_->setHandleWidth(3);
    splitter_->setChildrenCollapsible(false);
    column->addWidget(splitter_);
    base_ = new Viewport(tr("Base"), &camera_);
    source_ = new Viewport(tr("Source"), &camera_);
    result_ = new Viewport(tr("Fit"), &camera_);
    base_->setObjectName("view_base");
    source_->setObjectName("view_source");
    result_->setObjectName("view_result");
    photo_ = new PhotoView;
    photo_->setObjectName("view_photo");
    photo_->hide();
    for (QWidget* v : std::initializer_list<QWidget*>{base_, source_, photo_, result_}) splitter_->addWidget(v);
    source_->set_empty_hint(tr("Drop a scan or sculpt here, or use Gather → Add a source."));
    base_->set_empty_hint(tr("No base kit is open.\nUse Project → New from base kit."));

    connect(source_, &Viewport::clicked, this, [this](const Ray& ray) {
        if (station_ == Station::Mark) mark_.click_source(ray);
        if (station_ == Station::Tidy) tidy_.click(ray, QGuiApplication::keyboardModifiers());
    });
    connect_gestures();
    connect(base_, &Viewport::clicked, this, [this](const Ray& ray) {
        if (station_ == Station::Mark) mark_.click_base(ray);
    });
    connect_marking();
    connect_touching();
    connect_regions();
    connect_bank();
    connect_photos();
    connect(&s_, &Session::fit_cache_ready, this, [this] {
        result_shape_.shown = nullptr;
        refresh_result();
    });
    connect(&s_, &Session::changed, this, &Bench::refresh);
    connect(&s_, &Session::selection_changed, this, [this] {
        refresh_markers();
        fly_to_selected();
    });
    connect(&s_, &Session::live, this, &Bench::show_live);
    connect(&s_, &Session::fit_finished, this, [this] {
        live_ = false;
        result_shape_.shown = nullptr;
        refresh();
    });
    connect(&s_, &Session::busy_changed, this, [this] {
        source_->set_busy(s_.busy() && !s_.fitting() && !s_.tidying()
                              ? s_.detecting() ? tr("Finding landmarks…") : tr("Reading…")
                              : QString());
    });
    connect(&camera_, &CameraLink::changed, this, &Bench::refresh_markers);
    refresh();
}

void Bench::connect_gestures() {
    connect(source_, &Viewport::stroke_begun, &tidy_, &TidyController::begin_stroke);
    connect(source_, &Viewport::stroke_moved, &tidy_, &TidyController::move_stroke);
    connect(source_, &Viewport::stroke_ended, &tidy_, &TidyController::end_stroke);
    connect(source_, &Viewport::line_drawn, &tidy_, &TidyController::cut_line);
    connect(source_, &Viewport::outline_drawn, this,
            [this](const std::vector<Vec2>& clip, Qt::KeyboardModifiers keys) {
                tidy_.outline(clip, source_->clip_matrix(), keys);
            });
    connect(&s_, &Session::preview_changed, this, &Bench::refresh_source);
    connect(&s_, &Session::busy_changed, this, &Bench::refresh_source);
    connect(&tidy_, &TidyController::changed, this, [this] {
        if (station_ != Station::Tidy) return;
        refresh_source();
        refresh_markers();
    });
}

void Bench::set_station(Station station) {
    station_ = station;
    flight_.stop();  // the next station's view is its own
    set_loupe(loupe_);
    if (station == Station::Touch)
        touch_.enter();
    else
        touch_.drop_stroke();
    s_.set_upright_view(station == Station::Gather || station == Station::Tidy);
    refresh();
}

void Bench::set_tidy_look(double base_opacity, const FaceMask& highlight) {
    base_opacity_ = base_opacity;
    highlight_ = highlight;
    refresh_source();
}

void Bench::set_shading(Shading shading) {
    shading_ = shading;
    refresh();
}

void Bench::set_wire(bool on) {
    wire_ = on;
    refresh();
}

void Bench::set_smooth_edges(bool on) {
    for (Viewport* view : {base_, source_, result_}) view->set_smooth_edges(on);
}

void Bench::frame_head() {
    if (!s_.has_kit()) return;
    Box box;
    const BaseKit& kit = *s_.state().kit;
    // a figure is looked at whole while it is gathered and tidied
    if (source_is_figure() && (station_ == Station::Gather || station_ == Station::Tidy)) {
        box = source_->content_box();
        Camera c = camera_.camera();
        c.frame(box.centre(), 0.55 * box.size().y());
        return camera_.set(c);
    }
    box = s_.state().settings.part == FitPart::Head ? head_box(kit) : bounding_box(kit.mesh.positions);
    Camera c = camera_.camera();
    c.frame(box.centre(), 0.52 * box.size().norm());
    camera_.set(c);
}

void Bench::show_subject() {
    flight_.stop();
    const Box box = s_.prepared() ? source_->content_box() : Box();
    if (box.empty()) return frame_head();
    Camera c = camera_.camera();
    c.frame(box.centre(), 0.55 * std::max(box.size().y(), 0.75 * std::max(box.size().x(), box.size().z())));
    camera_.set(c);
}

bool Bench::source_is_figure() const {
    const Box box = source_->content_box();
    return s_.shown_source() && !box.empty() && box.size().y() > 1200;
}

void Bench::frame_selection() {
    const auto at = s_.state().base_points.find(s_.selected());
    if (at == s_.state().base_points.end()) return frame_head();
    Camera c = camera_.camera();
    c.frame(at->second.at(s_.state().kit->mesh.positions), 55);
    camera_.set(c);
}

void Bench::refresh() {
    const ProjectState& state = s_.state();
    if (live_ && !s_.fitting()) live_ = false, result_shape_.shown = nullptr;  // another subject's
    if (state.kit && framed_kit_ != state.kit) {
        framed_kit_ = state.kit;
        result_shape_ = other_shape_ = {};
        levels_.clear();
        source_distances_ = {};  // lets go of the project before
        frame_head();
    }
    refresh_base();
    refresh_source();
    refresh_photo();
    refresh_result();
    refresh_photo_camera();
    refresh_markers();
    const Source* now = state.source();
    const bool looks = now && (station_ == Station::Gather || station_ == Station::Tidy);
    const std::string subject = now ? now->name + (source_is_figure() ? " figure" : "") : "";
    if (looks && subject != framed_source_) {
        framed_source_ = subject;
        frame_head();
    }
}

void Bench::refresh_source() {
    const ProjectState& state = s_.state();
    const Source* from = s_.preview() ? s_.preview() : state.source();
    const PreparedSource* shown = s_.shown_source();
    std::vector<Layer> layers;
    if (from && shown) {
        layers.push_back({shown->display, s_.source_to_view(), theme::kTealClay,
                          source_coloured_ ? Shading::Colours : shading_, wire_ && station_ == Station::Tidy, 1});
        VertexMask selected;
        if (station_ == Station::Tidy && !s_.has_preview()) {
            FaceMask faces = tidy_.selected();
            if (highlight_.size() == from->mesh->face_count()) {
                if (faces.empty()) faces = highlight_;
                for (std::size_t f = 0; f < faces.size(); ++f) faces[f] |= highlight_[f];
            }
            if (faces.size() == from->mesh->face_count() && count_selected(faces) > 0)
                selected = shown->as_shown(vertices_of(*from->mesh, faces));
        }
        VertexMask ignored = from->ignored && from->ignored->size() == shown->mesh->positions.size()
                                 ? shown->as_shown(*from->ignored)
                                 : VertexMask();
        if (marked_ != shown->display || marked_selected_ != selected || marked_ignored_ != ignored) {
            shown->display->set_marks(selected, ignored);
            marked_ = shown->display;
            marked_selected_ = std::move(selected), marked_ignored_ = std::move(ignored);
        }
    }
    const bool tidying = station_ == Station::Tidy;
    if (tidying && base_opacity_ > 0 && s_.base_display())
        layers.push_back({s_.base_display(), {}, theme::kClay, Shading::Clay, false, base_opacity_});
    source_->set_layers(std::move(layers));
    source_->set_gesture(tidying ? tidy_.gesture() : Gesture::Turn);
    source_->set_brush(tidy_.brush_mm);
    const QString name = from ? QString::fromStdString(from->name) : QString();
    source_->set_title(!from              ? tr("Source")
                       : s_.has_preview() ? tr("Preview  %1").arg(name)
                                          : tr("Source  %1").arg(name));
    base_->setVisible(!tidying && !photo_station() &&
                      (station_ != Station::Touch || look_.compare == Compare::Beside));
    source_->set_prompt(station_ == Station::Mark ? mark_prompt()
                        : !tidying                ? QString()
                        : s_.tidying()            ? tr("Working… Esc stops it.")
                        : s_.has_preview()        ? tr("This is a preview. Keep or discard it.")
                                                  : tidy_.prompt());
}

void Bench::show_live(const std::shared_ptr<Points>& positions) {
    if (!s_.fitting() || !s_.has_kit()) return;
    live_ = true;
    show_shape(result_shape_, *positions, nullptr, 0);
    result_shape_.shown = nullptr;
    refresh_result();
    result_->update();
}

// Places picked to straighten by, in the order they were clicked.
void Bench::mark_picked(std::vector<Marker>& markers) const {
    int i = 0;
    for (const Vec3& p : tidy_.picked()) {
        Marker m;
        m.name = "picked " + std::to_string(++i);
        m.position = p;
        m.colour = theme::kOchre;
        m.label = QString::number(i);
        m.selected = true;
        markers.push_back(m);
    }
}

}  // namespace veld
