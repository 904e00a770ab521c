#include "app/views/markers.h"

#include <QFontMetrics>
#include <algorithm>

#include "app/theme.h"

namespace veld {

void draw_marker(QPainter& painter, const Marker& m, const QPointF& at, int view_width) {
    if (m.shape == MarkerShape::Dot) {
        painter.setPen(QPen(QColor(20, 17, 14, 200), 1.2));
        painter.setBrush(m.colour);
        return painter.drawEllipse(at, 2.6, 2.6);
    }
    const bool handle = m.shape == MarkerShape::Handle;
    const double r = handle ? 3.5 : m.selected ? 7.5 : 4.0;
    QColor colour = m.colour;
    if (m.hidden) colour.setAlpha(70);
    painter.setBrush(Qt::NoBrush);
    const auto shape = [&] {
        switch (m.shape) {
            case MarkerShape::Ring:
                painter.drawEllipse(at, r, r);
                break;
            case MarkerShape::Diamond:
                painter.drawPolygon(QPolygonF({at + QPointF(0, -r - 1), at + QPointF(r + 1, 0), at + QPointF(0, r + 1),
                                               at + QPointF(-r - 1, 0)}));
                break;
            case MarkerShape::Unsure:  // a ring that is not closed
                for (int i = 0; i < 3; ++i)
                    painter.drawArc(QRectF(at - QPointF(r + 1, r + 1), QSizeF(2 * r + 2, 2 * r + 2)),
                                    (90 + 120 * i - 38) * 16, 76 * 16);
                break;
            case MarkerShape::Square:
            case MarkerShape::Dot:
            case MarkerShape::Handle:
                painter.drawRect(QRectF(at - QPointF(r, r), QSizeF(2 * r, 2 * r)));
                break;
        }
    };
    painter.setPen(QPen(QColor(20, 17, 14, m.hidden ? 60 : 210), m.selected ? 4.2 : 3.0));
    shape();
    painter.setPen(QPen(colour, m.selected ? 2.2 : 1.5));
    shape();
    painter.setBrush(colour);
    painter.setPen(Qt::NoPen);
    if (!handle) painter.drawEllipse(at, 1.4, 1.4);
    if (!m.selected || m.label.isEmpty()) return;
    const QRectF text = painter.fontMetrics().boundingRect(m.label).toRectF().adjusted(-6, -3, 6, 3);
    const QPointF corner(std::min(at.x() + 14, view_width - text.width() - 6), std::max(at.y() - 30, 34.0));
    const QRectF box(corner, text.size());
    painter.setBrush(QColor(0x26, 0x23, 0x20, 225));
    painter.drawRoundedRect(box, 3, 3);
    painter.setPen(theme::kText);
    painter.drawText(box, Qt::AlignCenter, m.label);
}

void draw_guide_line(QPainter& painter, const GuideLine& line, const QPolygonF& on_screen) {
    if (on_screen.size() < 2) return;
    painter.setBrush(Qt::NoBrush);
    // dark below: a light line is lost on light skin
    if (!line.dashed) {
        painter.setPen(
            QPen(QColor(20, 17, 14, line.selected ? 160 : line.colour.alpha() / 2), line.selected ? 4 : 2.8));
        painter.drawPolyline(on_screen);
    }
    painter.setPen(QPen(line.colour, line.selected ? 2.0 : 1.3, line.dashed ? Qt::DashLine : Qt::SolidLine));
    painter.drawPolyline(on_screen);
}

void draw_loupe_frame(QPainter& painter, const QPointF& c, double r) {
    painter.setBrush(Qt::NoBrush);
    for (const bool dark : {true, false}) {
        painter.setPen(QPen(dark ? QColor(20, 17, 14, 200) : theme::kText, dark ? 3 : 1));
        for (const QPointF& d : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
            painter.drawLine(c + 6 * d, c + (r - 8) * d);
    }
    painter.setPen(QPen(QColor(20, 17, 14), 5));
    painter.drawEllipse(c, r, r);
    painter.setPen(QPen(theme::kLine.lighter(150), 2));
    painter.drawEllipse(c, r, r);
}

QPointF loupe_place(const QPointF& pointer, const QSize& view) {
    const double away = kLoupeRadius + 26;
    const double x = pointer.x() + (pointer.x() + away + kLoupeRadius < view.width() ? away : -away);
    const double y = pointer.y() + (pointer.y() - away - kLoupeRadius > 34 ? -away : away);
    return {std::clamp(x, kLoupeRadius + 4, std::max(kLoupeRadius + 4, view.width() - kLoupeRadius - 4)),
            std::clamp(y, kLoupeRadius + 36, std::max(kLoupeRadius + 36, view.height() - kLoupeRadius - 4))};
}

}  // namespace veld
