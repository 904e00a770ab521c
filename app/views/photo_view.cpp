#include "app/views/photo_view.h"

#include <QMouseEvent>
#include <QPainterPath>
#include <cmath>

#include "app/theme.h"
#include "app/views/header.h"

namespace veld {
namespace {
constexpr double kPhotoMarkerReach = 9;  // pixels of the screen
}

PhotoView::PhotoView(QWidget* parent) : QWidget(parent) {
    setMinimumSize(140, 140);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    header_ = make_header(this);
}

void PhotoView::set_picture(const QImage& picture, const QString& title) {
    title_ = title;
    if (picture.cacheKey() != picture_.cacheKey()) {
        picture_ = picture;
        frame_all();
    }
    update();
}

void PhotoView::frame_all() {
    fitted_ = true;
    if (picture_.isNull()) return;
    zoom_ = std::min((width() - 8.0) / picture_.width(), (height() - 40.0) / picture_.height());
    offset_ =
        QPointF(0.5 * (width() - zoom_ * picture_.width()), 34 + 0.5 * (height() - 38 - zoom_ * picture_.height()));
    update();
}

void PhotoView::frame(const QPointF& middle, double pixels) {
    fitted_ = false;
    zoom_ = std::min(width(), height()) / std::max(pixels, 1.0);
    offset_ = QPointF(0.5 * width(), 0.5 * height()) - zoom_ * middle;
    update();
}

void PhotoView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), theme::kBackground);
    if (!picture_.isNull()) painter.drawImage(QRectF(offset_, zoom_ * QSizeF(picture_.size())), picture_);
    const auto on_screen = [&](const Vec3& p) { return screen_of({p.x(), p.y()}); };
    for (const GuideLine& line : lines_) {
        QPolygonF polygon;
        for (const Vec3& p : line.points) polygon << on_screen(p);
        draw_guide_line(painter, line, polygon);
    }
    for (const bool selected : {false, true}) {
        for (const Marker& m : markers_) {
            if (m.selected == selected) draw_marker(painter, m, on_screen(m.position), width());
        }
    }
    if (loupe_ && pointer_.x() >= 0 && !panning_ && !picture_.isNull()) {
        const QPointF at = loupe_place(pointer_, size()), pixel = pixel_of(pointer_);
        const double half = kLoupeRadius / kLoupeTimes / zoom_;
        QPainterPath circle;
        circle.addEllipse(at, kLoupeRadius, kLoupeRadius);
        painter.save();
        painter.setClipPath(circle);
        painter.fillPath(circle, theme::kBackground);
        painter.drawImage(QRectF(at - QPointF(kLoupeRadius, kLoupeRadius), QSizeF(2 * kLoupeRadius, 2 * kLoupeRadius)),
                          picture_, QRectF(pixel - QPointF(half, half), QSizeF(2 * half, 2 * half)));
        painter.restore();
        draw_loupe_frame(painter, at, kLoupeRadius);
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x26, 0x23, 0x20, 150));
    painter.drawRect(0, 0, width(), kHeaderHeight);
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    painter.setFont(bold);
    painter.setPen(theme::kText);
    const QRect room(kTitleLeft, 6, width() - kTitleLeft - 12, 20);
    painter.drawText(room, Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(title_, Qt::ElideMiddle, room.width()));
    painter.setFont(font());
    if (!message_.isEmpty())
        painter.drawText(rect().adjusted(30, 30, -30, -30), Qt::AlignCenter | Qt::TextWordWrap, message_);
}

const Marker* PhotoView::marker_at(const QPointF& at) const {
    const Marker* best = nullptr;
    double nearest = kPhotoMarkerReach;
    for (const Marker& m : markers_) {
        const QPointF d = screen_of({m.position.x(), m.position.y()}) - at;
        if (std::hypot(d.x(), d.y()) < nearest) nearest = std::hypot(d.x(), d.y()), best = &m;
    }
    return best;
}

void PhotoView::mousePressEvent(QMouseEvent* event) {
    press_ = last_ = event->position();
    travelled_ = panning_ = false;
    dragged_.clear();
    if (event->button() == Qt::LeftButton) {
        if (const Marker* m = marker_at(press_)) {
            dragged_ = QString::fromStdString(m->name);
            emit marker_pressed(dragged_, event->modifiers());
            return;
        }
        if (brush_) {
            stroking_ = true;
            emit stroke_begun(pixel_of(press_), 1, event->modifiers());
            return;
        }
    }
    panning_ = true;
}

void PhotoView::mouseMoveEvent(QMouseEvent* event) {
    pointer_ = event->position();
    if (loupe_) update();
    if (event->buttons() == Qt::NoButton) return;
    if (stroking_) {
        emit stroke_moved(pixel_of(event->position()), 1);
        return;
    }
    const QPointF whole = event->position() - press_, d = event->position() - last_;
    if (!travelled_ && std::hypot(whole.x(), whole.y()) < 4) return;
    travelled_ = true;
    last_ = event->position();
    if (!dragged_.isEmpty()) {
        emit marker_dragged(dragged_, pixel_of(last_));
    } else if (panning_) {
        fitted_ = false;
        offset_ += d;
        update();
    }
}

// A pen's pressure; what it does otherwise comes as the mouse's events.
void PhotoView::tabletEvent(QTabletEvent* event) {
    if (!brush_) return event->ignore();
    const QPointF pixel = pixel_of(event->position());
    if (event->type() == QEvent::TabletPress) {
        stroking_ = true;
        emit stroke_begun(pixel, event->pressure(), event->modifiers());
    } else if (event->type() == QEvent::TabletMove && stroking_) {
        emit stroke_moved(pixel, event->pressure());
    } else if (event->type() == QEvent::TabletRelease && stroking_) {
        stroking_ = false;
        emit stroke_ended();
    }
    event->accept();
}

void PhotoView::mouseReleaseEvent(QMouseEvent* event) {
    if (stroking_) {
        if (event->button() != Qt::LeftButton) return;
        stroking_ = false;
        emit stroke_ended();
        return;
    }
    if (!dragged_.isEmpty())
        emit marker_released(dragged_);
    else if (event->button() == Qt::LeftButton && !travelled_ &&
             QRectF(QPointF(), QSizeF(picture_.size())).contains(pixel_of(press_)))
        emit clicked(pixel_of(press_));
    dragged_.clear();
    panning_ = false;
}

void PhotoView::wheelEvent(QWheelEvent* event) {
    fitted_ = false;
    const QPointF under = pixel_of(event->position());
    zoom_ = std::clamp(zoom_ * std::pow(1.13, event->angleDelta().y() / 120.0), 0.02, 60.0);
    offset_ = event->position() - zoom_ * under;
    update();
}

void PhotoView::keyPressEvent(QKeyEvent* event) {
    const int k = event->key();
    if (k != Qt::Key_Left && k != Qt::Key_Right && k != Qt::Key_Up && k != Qt::Key_Down)
        return QWidget::keyPressEvent(event);
    emit arrow_pressed((k == Qt::Key_Right) - (k == Qt::Key_Left), (k == Qt::Key_Up) - (k == Qt::Key_Down),
                       event->modifiers());
}

void PhotoView::leaveEvent(QEvent* event) {
    pointer_ = {-1, -1};
    update();
    QWidget::leaveEvent(event);
}

void PhotoView::resizeEvent(QResizeEvent* event) {
    if (fitted_) frame_all();
    QWidget::resizeEvent(event);
}

}  // namespace veld
