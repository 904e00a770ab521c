#include "app/views/viewport.h"

#include <QElapsedTimer>
#include <QMouseEvent>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QPainterPath>
#include <cmath>

#include "app/theme.h"
#include "app/views/gpu_meshes.h"
#include "app/views/habits.h"
#include "app/views/header.h"
#include "core/base/placed_box.h"

namespace veld {
namespace {
constexpr double kMarkerReach = 9;  // pixels
constexpr int kSettleMs = 160;
}  // namespace

Viewport::Viewport(const QString& title, CameraLink* camera, QWidget* parent)
    : QOpenGLWidget(parent), title_(title), camera_(camera), gpu_(std::make_unique<GpuMeshes>()) {
    setMinimumSize(140, 140);
    setFocusPolicy(Qt::StrongFocus);
    settle_.setSingleShot(true);
    connect(&settle_, &QTimer::timeout, this, [this] {
        moving_ = false;
        update();
    });
    connect(camera_, &CameraLink::changed, this, &Viewport::moved);
    header_ = make_header(this);
}

void Viewport::set_camera_link(CameraLink* link) {
    if (link == camera_) return;
    disconnect(camera_, nullptr, this, nullptr);
    camera_ = link;
    connect(camera_, &CameraLink::changed, this, &Viewport::moved);
    update();
}

Viewport::~Viewport() {
    if (!context()) return;
    disconnect(context(), nullptr, this, nullptr);
    makeCurrent();
    loupe_picture_.reset();
    gpu_->release();
    doneCurrent();
}

void Viewport::set_gesture(Gesture gesture) {
    if (gesture == gesture_) return;  // what is under way goes on
    gesture_ = gesture;
    gesturing_ = false;
    update_tracking();
    setCursor(gesture == Gesture::Turn ? Qt::ArrowCursor : Qt::CrossCursor);
    update();
}

// The brush's ring, the glass and the lamp follow the pointer.
void Viewport::update_tracking() {
    setMouseTracking(gesture_ != Gesture::Turn || loupe_ || hover_ || light_ == StudioLight::ByHand);
}

void Viewport::set_light(StudioLight light) {
    if (light == light_) return;
    light_ = light;
    update_tracking();
    update();
}

void Viewport::moved() {
    moving_ = true;
    settle_.start(kSettleMs);
    update();
}

void Viewport::set_layers(std::vector<Layer> layers) {
    std::vector<int> revisions;
    for (const Layer& layer : layers) revisions.push_back(layer.mesh ? layer.mesh->revision : -1);
    const auto same = [](const Layer& a, const Layer& b) {
        const bool placed = a.model == b.model;
        return a.mesh == b.mesh && placed && a.clay == b.clay && a.shading == b.shading && a.wire == b.wire &&
               a.opacity == b.opacity && a.from == b.from && a.to == b.to && a.relief == b.relief;
    };
    const bool unchanged =
        revisions == revisions_ && std::equal(layers.begin(), layers.end(), layers_.begin(), layers_.end(), same);
    layers_ = std::move(layers), revisions_ = std::move(revisions);
    if (!unchanged) update();
}

Box Viewport::content_box() const {
    Box out;
    for (const Layer& layer : layers_) {
        const Box box = layer.mesh ? placed(layer.mesh->box(), layer.model) : Box();
        if (!box.empty()) out.add(box.low), out.add(box.high);
    }
    return out;
}

void Viewport::initializeGL() {
    if (!gpu_->initialise()) emit unusable(gpu_->why());
    connect(context(), &QOpenGLContext::aboutToBeDestroyed, this, [this] {
        makeCurrent();
        gpu_->release();
        doneCurrent();
    });
}

void Viewport::set_smooth_edges(bool on) {
    gpu_->set_smooth_edges(on);
    update();
}

void Viewport::paintGL() {
    QElapsedTimer clock;
    clock.start();
    const QSize pixels = size() * devicePixelRatio();
    Lights lights = lights_of(light_, {2 * pointer_.x() / width() - 1, 1 - 2 * pointer_.y() / height()});
    lights.hollows = hollows_ ? 1 : 0;
    gpu_->set_lights(lights);
    gpu_->draw(layers_, camera_->camera(), backdrop_, cut_, pixels, moving_, defaultFramebufferObject());
    loupe_image_ = {};
    if (loupe_ && gesture_ == Gesture::Turn && pointer_.x() >= 0 && !orbiting_ && !panning_ && !layers_.empty()) {
        const int side = static_cast<int>(2 * kLoupeRadius * devicePixelRatio());
        if (!loupe_picture_ || loupe_picture_->width() != side)
            loupe_picture_ =
                std::make_unique<QOpenGLFramebufferObject>(side, side, QOpenGLFramebufferObject::CombinedDepthStencil);
        Camera close = camera_->camera();
        close.zoom = kLoupeTimes * height() / (2 * kLoupeRadius);
        close.zoom_x = (2 * pointer_.x() / width() - 1) * width() / height(),
        close.zoom_y = 1 - 2 * pointer_.y() / height();
        gpu_->draw(layers_, close, backdrop_, cut_, QSize(side, side), true, loupe_picture_->handle());
        loupe_image_ = loupe_picture_->toImage();
        QOpenGLFramebufferObject::bindDefault();
        context()->functions()->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
        context()->functions()->glViewport(0, 0, pixels.width(), pixels.height());
    }
    draw_overlay();
    frame_ms_ = static_cast<double>(clock.nsecsElapsed()) * 1e-6;
}

void Viewport::set_bare() {
    bare_ = true;
    setMinimumSize(60, 60);
    header_->hide();
}

void Viewport::set_hover(bool on) {
    hover_ = on;
    update_tracking();
}

void Viewport::set_loupe(bool on) {
    if (on == loupe_) return;
    loupe_ = on;
    update_tracking();
    update();
}

const Marker* Viewport::marker_at(const QPointF& at) const {
    const Marker* best = nullptr;
    double nearest = kMarkerReach;
    for (const Marker& m : markers_) {
        if (m.hidden && !m.selected) continue;
        const QPointF d = screen_of(m.position) - at;
        const double distance = std::hypot(d.x(), d.y());
        if (distance < nearest) nearest = distance, best = &m;
    }
    return best;
}

Habits& habits() {
    static Habits all;
    return all;
}

bool left_turns() {
    const Habits& all = habits();
    return all.buttons == MouseButtons::LeftTurns ||
           (all.buttons == MouseButtons::Own && all.turn == Hold{Qt::LeftButton});
}

namespace {

enum class Does { Select, Turn, Move, Nothing };

// The left button alone belongs to the tool, or selects before it turns.
Does what_own_does(const Hold& held, bool tool) {
    const Hold left{Qt::LeftButton};
    if (!(held == left)) {
        if (held == habits().turn) return Does::Turn;
        if (held == habits().move) return Does::Move;
        // who has turned with the left button turns with the right one while a tool has it
        if (tool && habits().turn == left && held.button == Qt::RightButton) return Does::Turn;
    }
    return held.button == Qt::LeftButton ? Does::Select : Does::Nothing;
}

// With a tool in the left button, right turns and middle moves, unless a hand is used to turning with the middle one.
Does what_button_does(Qt::MouseButton button, Qt::KeyboardModifiers keys, bool tool) {
    if (habits().buttons == MouseButtons::Own) {
        Hold held{button};
        for (const auto key : {Qt::ShiftModifier, Qt::AltModifier, Qt::ControlModifier})
            if (keys.testFlag(key)) held.key = key;
        return what_own_does(held, tool);
    }
    const bool shift = keys.testFlag(Qt::ShiftModifier);
    if (button == Qt::LeftButton && !(shift && habits().buttons == MouseButtons::LeftTurns && !tool))
        return Does::Select;
    switch (habits().buttons) {
        case MouseButtons::MiddleTurns:
            return button == Qt::MiddleButton && !shift ? Does::Turn : Does::Move;
        case MouseButtons::RightTurns:
            return button == Qt::RightButton ? Does::Turn : Does::Move;
        case MouseButtons::LeftTurns:
        case MouseButtons::Own:
            break;
    }
    return tool && button == Qt::RightButton ? Does::Turn : Does::Move;
}

}  // namespace

void Viewport::mousePressEvent(QMouseEvent* event) {
    press_ = last_ = event->position();
    travelled_ = false;
    orbiting_ = panning_ = selecting_ = false;
    dragged_.clear();
    const bool tool = gesture_ != Gesture::Turn;
    switch (what_button_does(event->button(), event->modifiers(), tool)) {
        case Does::Turn:
            orbiting_ = true;
            return;
        case Does::Move:
            panning_ = true;
            return;
        case Does::Nothing:
            return;
        case Does::Select:
            break;
    }
    if (tool) return begin_gesture(event);
    selecting_ = true;
    if (const Marker* m = marker_at(press_)) {
        dragged_ = QString::fromStdString(m->name);
        emit marker_pressed(dragged_, event->modifiers());
    } else {
        orbiting_ = left_turns();
    }
}

void Viewport::mouseMoveEvent(QMouseEvent* event) {
    pointer_ = event->position();
    if (light_ == StudioLight::ByHand) update();
    if (gesture_ != Gesture::Turn) {
        if (gesturing_) return continue_gesture(event);
        update();
        if (!orbiting_ && !panning_) return;
    } else if (loupe_) {
        update();
    }
    if (hover_ && event->buttons() == Qt::NoButton) emit hovered(camera_->camera().ray(pointer_, size()));
    if (!orbiting_ && !panning_ && !selecting_) return;
    const QPointF d = event->position() - last_;
    const QPointF whole = event->position() - press_;
    if (!travelled_ && std::hypot(whole.x(), whole.y()) < 4) return;
    travelled_ = true;
    last_ = event->position();
    Camera c = camera_->camera();
    if (!dragged_.isEmpty()) {
        emit marker_dragged(dragged_, c.ray(event->position(), size()));
    } else if (c.photo && (orbiting_ || panning_)) {
        // the photograph's camera stands where it stood: the picture is moved
        c.photo->middle -= Vec2(d.x(), d.y()) / (c.photo_scale(static_cast<double>(width()) / std::max(height(), 1)) *
                                                 std::max(height(), 1));
        camera_->set(c);
    } else if (orbiting_) {
        c.yaw = std::remainder(c.yaw - 0.45 * d.x(), 360.0);
        c.pitch = std::clamp(c.pitch + 0.45 * d.y(), -89.0, 89.0);
        camera_->set(c);
    } else if (panning_) {
        const double mm = c.height_at_target() / std::max(height(), 1);
        c.target += mm * (-d.x() * c.right() + d.y() * c.up());
        camera_->set(c);
    }
}

void Viewport::mouseReleaseEvent(QMouseEvent* event) {
    if (gesturing_) {
        if (event->button() == Qt::LeftButton) end_gesture(event);
        return;
    }
    if (!dragged_.isEmpty()) {
        emit marker_released(dragged_);
    } else if (event->button() == Qt::LeftButton && selecting_ && !travelled_) {
        emit clicked(camera_->camera().ray(event->position(), size()));
    }
    dragged_.clear();
    orbiting_ = panning_ = selecting_ = false;
}

void Viewport::keyPressEvent(QKeyEvent* event) {
    const int k = event->key();
    if (k != Qt::Key_Left && k != Qt::Key_Right && k != Qt::Key_Up && k != Qt::Key_Down)
        return QOpenGLWidget::keyPressEvent(event);
    emit arrow_pressed((k == Qt::Key_Right) - (k == Qt::Key_Left), (k == Qt::Key_Up) - (k == Qt::Key_Down),
                       event->modifiers());
}

void Viewport::wheelEvent(QWheelEvent* event) {
    Camera c = camera_->camera();
    const double factor = std::pow(0.88, (habits().wheel_reversed ? -1 : 1) * event->angleDelta().y() / 120.0);
    if (c.photo) {  // closer to where the pointer is
        const double aspect = static_cast<double>(width()) / std::max(height(), 1);
        const QPointF p = event->position();
        const Vec2 off = Vec2(p.x() - 0.5 * width(), p.y() - 0.5 * height()) / std::max(height(), 1);
        const Vec2 under = c.photo->middle + off / c.photo_scale(aspect);
        c.photo->zoom = std::clamp(c.photo->zoom / factor, 0.5, 40.0);
        c.photo->middle = under - off / c.photo_scale(aspect);
        return camera_->set(c);
    }
    if (event->modifiers().testFlag(Qt::ControlModifier)) {
        // the lens changes while the subject keeps its size
        const double before = c.height_at_target();
        c.field_of_view = std::clamp(c.field_of_view / factor, 4.0, 90.0);
        c.distance *= before / c.height_at_target();
    } else {
        c.distance = std::clamp(c.distance * factor, 20.0, 20000.0);
    }
    camera_->set(c);
}

}  // namespace veld
