#include "app/views/view_set.h"

#include <QGuiApplication>
#include <QMouseEvent>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "core/detect/photo_face.h"

namespace veld {
namespace {

constexpr int kFlightMs = 260, kMostRounds = 3;
constexpr double kTitleHeight = 32;                          // pixels
constexpr double kTurn = 5, kFineTurn = 1, kMostPitch = 89;  // degrees
constexpr ViewId kAll[] = {ViewId::Base, ViewId::Source, ViewId::Photo, ViewId::Result};
constexpr ViewId kOfMeshes[] = {ViewId::Base, ViewId::Source, ViewId::Result};

}  // namespace

ViewSet::ViewSet(QWidget* parent) : QWidget(parent) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    splitter_ = new QSplitter(Qt::Horizontal);
    splitter_->setHandleWidth(3);
    splitter_->setChildrenCollapsible(false);
    column->addWidget(splitter_);
    base_ = new Viewport({}, &camera_);
    source_ = new Viewport({}, &camera_);
    result_ = new Viewport({}, &camera_);
    photo_ = new PhotoView;
    base_->setObjectName("view_base");
    source_->setObjectName("view_source");
    result_->setObjectName("view_result");
    photo_->setObjectName("view_photo");
    for (const ViewId id : kAll) {
        splitter_->addWidget(widget(id));
        widget(id)->hide();
        widget(id)->installEventFilter(this);
    }
    for (const ViewId id : kOfMeshes) connect_view(id);
    connect_photo();
    connect(&camera_, &CameraLink::changed, this, &ViewSet::refresh_marks);
    flight_.setDuration(kFlightMs);
    flight_.setEasingCurve(QEasingCurve::InOutCubic);
}

Viewport& ViewSet::view(ViewId which) {
    return which == ViewId::Base ? *base_ : which == ViewId::Source ? *source_ : *result_;
}

QWidget* ViewSet::widget(ViewId which) {
    return which == ViewId::Photo ? static_cast<QWidget*>(photo_) : &view(which);
}

void ViewSet::connect_view(ViewId id) {
    Viewport* v = &view(id);
    connect(v, &Viewport::clicked, this, [this, id](const Ray& ray) {
        if (client_) client_->clicked(id, ray, QGuiApplication::keyboardModifiers());
    });
    connect(v, &Viewport::stroke_begun, this, [this, id](const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
        stroke_ = {client_, id};
        if (client_) client_->stroke_begun(id, ray, pressure, keys);
    });
    connect(v, &Viewport::stroke_moved, this, [this, id](const Ray& ray, double pressure) {
        if (stroke_.client) stroke_.client->stroke_moved(id, ray, pressure);
    });
    connect(v, &Viewport::stroke_ended, this, [this, id] {
        if (ViewClient* whose = std::exchange(stroke_, {}).client) whose->stroke_ended(id);
    });
    connect(v, &Viewport::line_drawn, this, [this, id](const Ray& from, const Ray& to) {
        if (client_) client_->line_drawn(id, from, to);
    });
    connect(v, &Viewport::outline_drawn, this,
            [this, id, v](const std::vector<Vec2>& clip, Qt::KeyboardModifiers keys) {
                if (client_) client_->outline_drawn(id, clip, v->clip_matrix(), keys);
            });
    connect(v, &Viewport::marker_pressed, this, [this, id](const QString& name, Qt::KeyboardModifiers keys) {
        marker_ = {client_, id};
        if (client_) client_->marker_pressed(id, name.toStdString(), keys);
    });
    connect(v, &Viewport::marker_dragged, this, [this, id](const QString& name, const Ray& ray) {
        if (marker_.client) marker_.client->marker_dragged(id, name.toStdString(), ray);
    });
    connect(v, &Viewport::marker_released, this, [this, id] {
        if (ViewClient* whose = std::exchange(marker_, {}).client) whose->marker_released(id);
    });
    connect(v, &Viewport::arrow_pressed, this, [this](int right, int up, Qt::KeyboardModifiers keys) {
        if (keys.testFlag(Qt::AltModifier) || !client_ || !client_->arrow_pressed(right, up, keys))
            turn(right, up, keys);
    });
}

// As a drag would: the subject turns to where the arrow points.
void ViewSet::turn(int right, int up, Qt::KeyboardModifiers keys) {
    const double step = keys.testFlag(Qt::ShiftModifier) ? kFineTurn : kTurn;
    Camera c = camera_.camera();
    c.yaw = std::remainder(c.yaw - right * step, 360.0);
    c.pitch = std::clamp(c.pitch - up * step, -kMostPitch, kMostPitch);
    camera_.set(c);
}

void ViewSet::connect_photo() {
    connect(photo_, &PhotoView::clicked, this, [this](const QPointF& pixel) {
        if (client_) client_->photo_clicked(pixel, photo_->zoom());
    });
    connect(photo_, &PhotoView::marker_pressed, this, [this](const QString& name, Qt::KeyboardModifiers keys) {
        marker_ = {client_, ViewId::Photo};
        if (client_) client_->marker_pressed(ViewId::Photo, name.toStdString(), keys);
    });
    connect(photo_, &PhotoView::marker_dragged, this, [this](const QString& name, const QPointF& at) {
        if (marker_.client) marker_.client->photo_marker_dragged(name.toStdString(), at);
    });
    connect(photo_, &PhotoView::marker_released, this, [this] {
        if (ViewClient* whose = std::exchange(marker_, {}).client) whose->marker_released(ViewId::Photo);
    });
    connect(photo_, &PhotoView::arrow_pressed, this, [this](int right, int up, Qt::KeyboardModifiers keys) {
        if (client_) client_->arrow_pressed(right, up, keys);
    });
}

void ViewSet::set_client(ViewClient* client) {
    flight_.stop();
    if (const Held held = std::exchange(stroke_, {}); held.client) held.client->stroke_ended(held.view);
    if (const Held held = std::exchange(marker_, {}); held.client) held.client->marker_released(held.view);
    client_ = client;
    refresh();
}

void ViewSet::refresh() { refresh({ViewId::Base, ViewId::Source, ViewId::Photo, ViewId::Result}); }

// A client that is asked may start work or move the camera, and so be told to refresh again: that is done afterwards,
// and after other events when it does not come to rest.
void ViewSet::refresh(std::initializer_list<ViewId> which) {
    wanted_.insert(which.begin(), which.end());
    if (refreshing_) return;
    refreshing_ = true;
    for (int round = 0; round < kMostRounds && !wanted_.empty(); ++round) refresh_now(std::exchange(wanted_, {}));
    refreshing_ = false;
    if (!wanted_.empty()) QTimer::singleShot(0, this, [this] { refresh({}); });
}

void ViewSet::refresh_now(const std::set<ViewId>& which) {
    if (!client_) return;
    client_->before_showing();
    std::set<ViewId> all = which;
    for (const ViewId id : update_shown()) all.insert(id);
    for (const ViewId id : all) {
        if (std::find(shown_.begin(), shown_.end(), id) == shown_.end()) continue;
        id == ViewId::Photo ? show_photo() : show_pane(id);
    }
    const std::string framed = client_->framed();
    if (framed.empty() || framed == framed_) return;
    framed_ = framed;
    frame_home();
}

std::vector<ViewId> ViewSet::update_shown() {
    std::vector<ViewId> now = client_->shown(), came;
    std::sort(now.begin(), now.end());
    if (now == shown_) return came;
    for (const ViewId id : now) {
        if (std::find(shown_.begin(), shown_.end(), id) == shown_.end()) came.push_back(id);
    }
    shown_ = std::move(now);
    if (maximised_ && std::find(shown_.begin(), shown_.end(), *maximised_) == shown_.end()) maximised_.reset();
    place_views();
    return came;
}

void ViewSet::place_views() {
    for (const ViewId id : kAll) {
        const bool there = std::find(shown_.begin(), shown_.end(), id) != shown_.end();
        widget(id)->setVisible(there && (!maximised_ || *maximised_ == id));
    }
    splitter_->setSizes({10000, 10000, 10000, 10000});  // equal shares of what there is
}

void ViewSet::maximise(std::optional<ViewId> which) {
    if (which && std::find(shown_.begin(), shown_.end(), *which) == shown_.end()) return;
    maximised_ = which;
    place_views();
}

bool ViewSet::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::MouseButtonDblClick) {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        for (const ViewId id : kAll) {
            if (object != widget(id) || mouse->position().y() > kTitleHeight || mouse->button() != Qt::LeftButton)
                continue;
            maximise(maximised_ ? std::nullopt : std::optional(id));
            return true;
        }
    }
    return QWidget::eventFilter(object, event);
}

void ViewSet::show_pane(ViewId which) {
    Pane pane = client_->pane(which);
    Viewport& v = view(which);
    v.set_layers(std::move(pane.layers));
    v.set_title(pane.title);
    v.set_prompt(pane.prompt);
    v.set_empty_hint(pane.hint);
    v.set_busy(pane.busy);
    v.set_legend(pane.legend);
    v.set_key(pane.key);
    v.set_backdrop(pane.backdrop);
    v.set_cut(pane.cut);
    v.set_divider(pane.divider);
    v.set_gesture(pane.gesture);
    v.set_brush(pane.brush_mm);
    v.set_loupe(pane.loupe);
    if (pane.quickly) v.redraw_quickly();
    auto seen = client_->marks(which);
    show_marks(which, seen ? std::move(*seen) : std::move(pane.marks));
}

void ViewSet::show_marks(ViewId which, Marks&& marks) {
    if (which == ViewId::Photo) {
        photo_->set_markers(std::move(marks.markers));
        return photo_->set_lines(std::move(marks.lines));
    }
    view(which).set_markers(std::move(marks.markers));
    view(which).set_lines(std::move(marks.lines));
}

void ViewSet::show_photo() {
    const PhotoPane now = client_->photo_pane();
    photo_->set_loupe(now.loupe);
    if (auto marks = client_->marks(ViewId::Photo)) show_marks(ViewId::Photo, std::move(*marks));
    const bool same = now.photos == photo_shown_.photos && now.photo == photo_shown_.photo;
    if (same || !now.photos || now.photo >= now.photos->size()) return;
    photo_shown_ = now;
    const Image& bytes = (*now.photos)[now.photo];
    const auto photo = decode_photo(bytes);
    if (!photo) {
        photo_->set_picture({}, QString::fromStdString(bytes.name));
        return photo_->set_message(QString::fromStdString(photo.error().message));
    }
    const Pixels& px = photo->pixels;
    photo_->set_message({});
    photo_->set_picture(QImage(px.rgba.data(), px.width, px.height, 4 * px.width, QImage::Format_RGBA8888).copy(),
                        tr("Photograph  %1").arg(QString::fromStdString(bytes.name)));
}

void ViewSet::refresh_marks() {
    if (!client_) return;
    for (const ViewId id : shown_) {
        if (auto marks = client_->marks(id)) show_marks(id, std::move(*marks));
    }
}

void ViewSet::frame(const Framing& what) {
    flight_.stop();
    if (what.radius <= 0) return;
    camera_.set(framed(camera_.camera(), what));
}

// Titles lie over the views' upper edge: what is looked at keeps clear of them.
Camera ViewSet::framed(Camera camera, const Framing& what) const {
    const double free = std::max(0.5, 1 - kTitleHeight / std::max(1.0, static_cast<double>(height())));
    camera.frame(what.centre, what.radius / free);
    camera.target += 0.5 * (1 - free) * camera.height_at_target() * camera.up();
    return camera;
}

void ViewSet::frame_home() {
    if (client_) frame(client_->home());
}

void ViewSet::fly_to(const Camera& to) {
    flight_.stop();
    flight_.disconnect(this);
    flight_.setStartValue(0.0);
    flight_.setEndValue(1.0);
    connect(&flight_, &QVariantAnimation::valueChanged, this,
            [this, from = camera_.camera(), to](const QVariant& value) {
                const double t = value.toDouble();
                Camera c = to;
                c.target = (1 - t) * from.target + t * to.target;
                c.yaw = from.yaw + t * std::remainder(to.yaw - from.yaw, 360.0);
                c.pitch = (1 - t) * from.pitch + t * to.pitch;
                c.distance = std::exp((1 - t) * std::log(from.distance) + t * std::log(to.distance));
                camera_.set(c);
            });
    flight_.start();
}

void ViewSet::set_light(StudioLight light) {
    for (const ViewId id : kOfMeshes) view(id).set_light(light);
}

void ViewSet::set_hollows(bool dark) {
    for (const ViewId id : kOfMeshes) view(id).set_hollows(dark);
}

void ViewSet::set_smooth_edges(bool on) {
    for (const ViewId id : kOfMeshes) view(id).set_smooth_edges(on);
}

}  // namespace veld
