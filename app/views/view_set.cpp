#include "app/views/view_set.h"

#include <QGuiApplication>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/views/header.h"
#include "core/detect/photo_face.h"

namespace veld {
namespace {

constexpr int kFlightMs = 260, kMostRounds = 3;
constexpr double kTurn = 5, kFineTurn = 1, kMostPitch = 89;  // degrees

}  // namespace

ViewSet::ViewSet(QWidget* parent) : QWidget(parent), seats_(new ViewSeats) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(seats_);
    for (Viewport* v : seats_->all_ports()) connect_view(v);
    connect(seats_, &ViewSeats::made, this, [this](Viewport* v) {
        v->set_light(light_), v->set_hollows(hollows_), v->set_smooth_edges(smooth_);
        connect_view(v);
    });
    connect_photo();
    connect(&camera(), &CameraLink::changed, this, &ViewSet::refresh_marks);
    connect(&camera(), &CameraLink::changed, this, &ViewSet::camera_changed);
    connect(seats_, &ViewSeats::own_camera_changed, this, &ViewSet::refresh_marks);
    connect(seats_, &ViewSeats::own_camera_changed, this, &ViewSet::camera_changed);
    connect(seats_, &ViewSeats::active_changed, this, &ViewSet::camera_changed);
    connect(seats_, &ViewSeats::wanted, this, [this](const Arrangement& how) {
        arrange_as(how);
        emit arranged(chosen_);
    });
    connect(seats_, &ViewSeats::divider_moved, this, [this] { emit arranged(chosen_); });
    flight_.setDuration(kFlightMs);
    flight_.setEasingCurve(QEasingCurve::InOutCubic);
}

ViewId ViewSet::shown_by(const Viewport* view) const {
    for (const ViewSeats::Placed& p : seats_->placed()) {
        if (p.port == view) return p.shows;
    }
    return ViewId::Base;
}

void ViewSet::connect_view(Viewport* v) {
    connect(v, &Viewport::unusable, this, &ViewSet::unusable);
    connect(v, &Viewport::clicked, this, [this, v](const Ray& ray) {
        if (client_) client_->clicked(shown_by(v), ray, QGuiApplication::keyboardModifiers());
    });
    connect(v, &Viewport::stroke_begun, this, [this, v](const Ray& ray, double pressure, Qt::KeyboardModifiers keys) {
        stroke_ = {client_, shown_by(v)};
        if (client_) client_->stroke_begun(shown_by(v), ray, pressure, keys);
    });
    connect(v, &Viewport::stroke_moved, this, [this](const Ray& ray, double pressure) {
        if (stroke_.client) stroke_.client->stroke_moved(stroke_.view, ray, pressure);
    });
    connect(v, &Viewport::stroke_ended, this, [this] {
        if (const Held held = std::exchange(stroke_, {}); held.client) held.client->stroke_ended(held.view);
    });
    connect(v, &Viewport::line_drawn, this, [this, v](const Ray& from, const Ray& to) {
        if (client_) client_->line_drawn(shown_by(v), from, to);
    });
    connect(v, &Viewport::outline_drawn, this, [this, v](const std::vector<Vec2>& clip, Qt::KeyboardModifiers keys) {
        if (client_) client_->outline_drawn(shown_by(v), clip, v->clip_matrix(), keys);
    });
    connect(v, &Viewport::marker_pressed, this, [this, v](const QString& name, Qt::KeyboardModifiers keys) {
        marker_ = {client_, shown_by(v)};
        if (client_) client_->marker_pressed(shown_by(v), name.toStdString(), keys);
    });
    connect(v, &Viewport::marker_dragged, this, [this](const QString& name, const Ray& ray) {
        if (marker_.client) marker_.client->marker_dragged(marker_.view, name.toStdString(), ray);
    });
    connect(v, &Viewport::marker_released, this, [this] {
        if (const Held held = std::exchange(marker_, {}); held.client) held.client->marker_released(held.view);
    });
    connect(v, &Viewport::arrow_pressed, this, [this, v](int right, int up, Qt::KeyboardModifiers keys) {
        if (keys.testFlag(Qt::AltModifier) || !client_ || !client_->arrow_pressed(right, up, keys))
            turn(*v->camera_link(), right, up, keys);
    });
}

// As a drag would: the subject turns to where the arrow points.
void ViewSet::turn(CameraLink& link, int right, int up, Qt::KeyboardModifiers keys) {
    const double step = keys.testFlag(Qt::ShiftModifier) ? kFineTurn : kTurn;
    Camera c = link.camera();
    c.yaw = std::remainder(c.yaw - right * step, 360.0);
    c.pitch = std::clamp(c.pitch - up * step, -kMostPitch, kMostPitch);
    link.set(c);
}

void ViewSet::connect_photo() {
    connect(photo_view(), &PhotoView::clicked, this, [this](const QPointF& pixel) {
        if (client_) client_->photo_clicked(pixel, photo_view()->zoom());
    });
    connect(photo_view(), &PhotoView::stroke_begun, this,
            [this](const QPointF& pixel, double pressure, Qt::KeyboardModifiers keys) {
                stroke_ = {client_, ViewId::Photo};
                if (client_) client_->photo_stroke_begun(pixel, pressure, keys);
            });
    connect(photo_view(), &PhotoView::stroke_moved, this, [this](const QPointF& pixel, double pressure) {
        if (stroke_.client) stroke_.client->photo_stroke_moved(pixel, pressure);
    });
    connect(photo_view(), &PhotoView::stroke_ended, this, [this] {
        if (ViewClient* whose = std::exchange(stroke_, {}).client) whose->photo_stroke_ended();
    });
    connect(photo_view(), &PhotoView::marker_pressed, this, [this](const QString& name, Qt::KeyboardModifiers keys) {
        marker_ = {client_, ViewId::Photo};
        if (client_) client_->marker_pressed(ViewId::Photo, name.toStdString(), keys);
    });
    connect(photo_view(), &PhotoView::marker_dragged, this, [this](const QString& name, const QPointF& at) {
        if (marker_.client) marker_.client->photo_marker_dragged(name.toStdString(), at);
    });
    connect(photo_view(), &PhotoView::marker_released, this, [this] {
        if (ViewClient* whose = std::exchange(marker_, {}).client) whose->marker_released(ViewId::Photo);
    });
    connect(photo_view(), &PhotoView::arrow_pressed, this, [this](int right, int up, Qt::KeyboardModifiers keys) {
        if (client_) client_->arrow_pressed(right, up, keys);
    });
}

void ViewSet::set_client(ViewClient* client, const Arrangement& how) {
    flight_.stop();
    if (const Held held = std::exchange(stroke_, {}); held.client) held.client->stroke_ended(held.view);
    if (const Held held = std::exchange(marker_, {}); held.client) held.client->marker_released(held.view);
    client_ = client;
    chosen_ = how;
    refresh();
}

void ViewSet::arrange_as(const Arrangement& how) {
    chosen_ = how;
    refresh();
}

void ViewSet::arrange_count(std::size_t count) {
    if (!client_) return;
    std::vector<ViewId> things = client_->offered();
    std::sort(things.begin(), things.end());
    // what the station shows comes first
    const std::vector<ViewId> first = client_->shown();
    std::stable_partition(things.begin(), things.end(),
                          [&](ViewId id) { return std::find(first.begin(), first.end(), id) != first.end(); });
    arrange_as(arrange(things, count));
    emit arranged(chosen_);
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
        if (seats_->shows(id)) id == ViewId::Photo ? show_photo() : show_pane(id);
    }
    const std::string framed = client_->framed();
    if (framed.empty() || framed == framed_) return;
    framed_ = framed;
    frame_home();
}

std::vector<ViewId> ViewSet::update_shown() {
    const std::vector<ViewId> offered = client_->offered();
    seats_->set_offered(offered);
    Arrangement now = those_of(chosen_, offered);
    if (now.empty()) {
        std::vector<ViewId> shown = client_->shown();
        std::sort(shown.begin(), shown.end());
        for (const ViewId id : shown) now.push_back({id});
    }
    return seats_->set(now);
}

void ViewSet::maximise(std::optional<ViewId> which) {
    if (!which) return seats_->set_alone({});
    const auto& all = seats_->placed();
    const auto at = std::find_if(all.begin(), all.end(), [&](const auto& p) { return p.shows == *which; });
    if (at != all.end()) seats_->set_alone(static_cast<std::size_t>(at - all.begin()));
}

void ViewSet::toggle_alone() {
    if (seats_->alone()) return seats_->set_alone({});
    if (const auto active = seats_->active()) return seats_->set_alone(*active);
    maximise(seats_->shows(ViewId::Result) ? ViewId::Result : ViewId::Source);
}

std::optional<ViewId> ViewSet::maximised() const {
    const auto alone = seats_->alone();
    return alone ? std::optional(seats_->placed()[*alone].shows) : std::nullopt;
}

void ViewSet::show_pane(ViewId which) {
    const Pane pane = client_->pane(which);
    for (Viewport* v : seats_->ports_of(which)) fill(*v, pane);
}

void ViewSet::fill(Viewport& v, const Pane& pane) {
    v.set_layers(pane.layers);
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
    Marks marks = client_->marks(shown_by(&v), v.camera_link()->camera()).value_or(pane.marks);
    v.set_markers(std::move(marks.markers));
    v.set_lines(std::move(marks.lines));
}

void ViewSet::show_photo_marks() {
    auto marks = client_->marks(ViewId::Photo, camera().camera());
    if (!marks) return;
    photo_view()->set_markers(std::move(marks->markers));
    photo_view()->set_lines(std::move(marks->lines));
}

void ViewSet::show_photo() {
    const PhotoPane now = client_->photo_pane();
    photo_view()->set_loupe(now.loupe);
    photo_view()->set_brush(now.brush);
    show_photo_marks();
    if (!now.picture.isNull() || !now.message.isEmpty()) {
        photo_shown_ = now;
        photo_view()->set_message(now.message);
        const bool same = photo_view()->title() == now.name && photo_view()->picture().size() == now.picture.size();
        if (same)
            photo_view()->change_picture(now.picture);
        else
            photo_view()->set_picture(now.picture, now.name);
        return;
    }
    const bool same = now.photos == photo_shown_.photos && now.photo == photo_shown_.photo;
    if (same || !now.photos || now.photo >= now.photos->size()) return;
    photo_shown_ = now;
    const Image& bytes = (*now.photos)[now.photo];
    const auto photo = decode_photo(bytes);
    if (!photo) {
        photo_view()->set_picture({}, QString::fromStdString(bytes.name));
        return photo_view()->set_message(QString::fromStdString(photo.error().message));
    }
    const Pixels& px = photo->pixels;
    photo_view()->set_message({});
    photo_view()->set_picture(
        QImage(px.rgba.data(), px.width, px.height, 4 * px.width, QImage::Format_RGBA8888).copy(),
        tr("Photograph  %1").arg(QString::fromStdString(bytes.name)));
}

void ViewSet::refresh_marks() {
    if (!client_) return;
    for (const ViewSeats::Placed& p : seats_->placed()) {
        if (!p.port) {
            show_photo_marks();
            continue;
        }
        auto marks = client_->marks(p.shows, p.port->camera_link()->camera());
        if (!marks) continue;
        p.port->set_markers(std::move(marks->markers));
        p.port->set_lines(std::move(marks->lines));
    }
}

void ViewSet::redraw_quickly(ViewId which) {
    for (Viewport* v : seats_->ports_of(which)) v->redraw_quickly();
}

void ViewSet::set_layers(ViewId which, const std::vector<Layer>& layers) {
    for (Viewport* v : seats_->ports_of(which)) v->set_layers(layers);
}

void ViewSet::frame(const Framing& what) {
    flight_.stop();
    if (what.radius <= 0) return;
    CameraLink& link = active_camera();
    link.set(framed(link.camera(), what));
}

// Titles lie over the views' upper edge: what is looked at keeps clear of them. A narrow view stands farther off, so
// that a profile fits into it.
Camera ViewSet::framed(Camera camera, const Framing& what) const {
    const double free = std::max(0.5, 1 - kHeaderHeight / std::max(1.0, static_cast<double>(seats_->lowest())));
    constexpr double kWide = 0.6;  // of what is framed, how wide it is as a rule
    const double narrow = std::max(1.0, kWide / std::max(seats_->narrowest(), 0.1));
    camera.frame(what.centre, narrow * what.radius / free);
    camera.target += 0.5 * (1 - free) * camera.height_at_target() * camera.up();
    return camera;
}

void ViewSet::frame_home() {
    flight_.stop();
    const Framing home = client_ ? client_->home() : Framing{};
    if (home.radius <= 0) return;
    for (CameraLink* link : seats_->cameras()) link->set(framed(link->camera(), home));
}

void ViewSet::fly_to(const Camera& to) {
    flight_.stop();
    flight_.disconnect(this);
    flight_.setStartValue(0.0);
    flight_.setEndValue(1.0);
    connect(&flight_, &QVariantAnimation::valueChanged, this,
            [this, from = camera().camera(), to](const QVariant& value) {
                const double t = value.toDouble();
                Camera c = to;
                c.target = (1 - t) * from.target + t * to.target;
                c.yaw = from.yaw + t * std::remainder(to.yaw - from.yaw, 360.0);
                c.pitch = (1 - t) * from.pitch + t * to.pitch;
                c.distance = std::exp((1 - t) * std::log(from.distance) + t * std::log(to.distance));
                camera().set(c);
            });
    flight_.start();
}

void ViewSet::set_light(StudioLight light) {
    light_ = light;
    for (Viewport* v : seats_->all_ports()) v->set_light(light);
}

void ViewSet::set_hollows(bool dark) {
    hollows_ = dark;
    for (Viewport* v : seats_->all_ports()) v->set_hollows(dark);
}

void ViewSet::set_smooth_edges(bool on) {
    smooth_ = on;
    for (Viewport* v : seats_->all_ports()) v->set_smooth_edges(on);
}

}  // namespace veld
