// Strokes and outlines drawn on a viewport, by mouse or pen.
#include <QMouseEvent>
#include <QTabletEvent>

#include "app/theme.h"
#include "app/views/viewport.h"

namespace veld {

std::array<double, 16> Viewport::clip_matrix() const {
    const Camera& c = camera_->camera();
    const QMatrix4x4 clip = c.projection(static_cast<double>(width()) / std::max(height(), 1)) * c.view();
    std::array<double, 16> out{};
    for (int row = 0; row < 4; ++row) {
        for (int column = 0; column < 4; ++column)
            out[static_cast<std::size_t>(4 * row + column)] = static_cast<double>(clip(row, column));
    }
    return out;
}

double Viewport::brush_pixels() const {
    return brush_mm_ * height() / std::max(camera_->camera().height_at_target(), 1e-6);
}

void Viewport::begin_gesture(QMouseEvent* event) {
    gesturing_ = true;
    outline_ = QPolygonF{event->position()};
    if (gesture_ == Gesture::Stroke || gesture_ == Gesture::Touch)
        emit stroke_begun(camera_->camera().ray(event->position(), size()), pressure_, event->modifiers());
}

void Viewport::continue_gesture(QMouseEvent* event) {
    if (gesture_ == Gesture::Touch) {
        last_ = event->position();
        emit stroke_moved(camera_->camera().ray(last_, size()), pressure_);
    } else if (gesture_ == Gesture::Stroke) {
        // a mouse reports every pixel; a quarter of the brush's width is as good and keeps paths short
        const QPointF step = event->position() - last_;
        if (std::hypot(step.x(), step.y()) >= std::max(2.0, 0.25 * brush_pixels())) {
            last_ = event->position();
            outline_ << last_;
            emit stroke_moved(camera_->camera().ray(last_, size()), pressure_);
        }
    } else if (gesture_ == Gesture::Lasso) {
        outline_ << event->position();
    } else if (gesture_ == Gesture::Line) {
        outline_ = QPolygonF{press_, event->position()};
    } else {
        const QPointF a = press_, b = event->position();
        outline_ = QPolygonF{a, QPointF(b.x(), a.y()), b, QPointF(a.x(), b.y())};
    }
    update();
}

void Viewport::end_gesture(QMouseEvent* event) {
    gesturing_ = false;
    if (gesture_ == Gesture::Stroke || gesture_ == Gesture::Touch) {
        emit stroke_ended();
    } else if (gesture_ == Gesture::Line) {
        const Camera& c = camera_->camera();
        if (outline_.size() == 2 && QLineF(outline_[0], outline_[1]).length() > 8)
            emit line_drawn(c.ray(outline_[0], size()), c.ray(outline_[1], size()));
    } else if (outline_.size() >= 3) {
        std::vector<Vec2> clip;
        for (const QPointF& p : outline_) clip.emplace_back(2 * p.x() / width() - 1, 1 - 2 * p.y() / height());
        emit outline_drawn(std::move(clip), event->modifiers());
    }
    outline_.clear();
    update();
}

void Viewport::draw_gesture(QPainter& painter) {
    painter.setBrush(Qt::NoBrush);
    if (gesture_ == Gesture::Stroke || gesture_ == Gesture::Touch) {
        const double r = brush_pixels();
        if (outline_.size() > 1) {
            QColor trail = theme::kOchre;
            trail.setAlpha(70);
            painter.setPen(QPen(trail, 2 * r, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
            painter.drawPolyline(outline_);
        }
        if (pointer_.x() < 0) return;
        painter.setPen(QPen(QColor(20, 17, 14, 160), 3));
        painter.drawEllipse(pointer_, r, r);
        painter.setPen(QPen(theme::kText, 1.3));
        painter.drawEllipse(pointer_, r, r);
        return;
    }
    if (outline_.size() < 2) return;
    QColor inside = theme::kOchre;
    inside.setAlpha(40);
    painter.setBrush(inside);
    painter.setPen(QPen(theme::kOchre, 1.4, Qt::DashLine));
    gesture_ == Gesture::Line ? painter.drawPolyline(outline_) : painter.drawPolygon(outline_);
}

void Viewport::tabletEvent(QTabletEvent* event) {
    // remembered for the mouse event that Qt makes of it
    pressure_ = event->type() == QEvent::TabletRelease ? 1.0 : std::clamp(event->pressure(), 0.05, 1.0);
    event->ignore();
}

void Viewport::leaveEvent(QEvent* event) {
    pointer_ = {-1, -1};
    if (hover_) emit pointer_left();
    if (gesture_ != Gesture::Turn || loupe_) update();
    QOpenGLWidget::leaveEvent(event);
}

}  // namespace veld
