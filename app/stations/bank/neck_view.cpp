#include "app/stations/bank/neck_view.h"

#include <QPainter>

#include "app/theme.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {
constexpr double kAboveMm = 95, kBelowMm = 60;  // of the ring
}

NeckView::NeckView(QWidget* parent) : QWidget(parent) {
    setMinimumHeight(120);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("The neck from the front and from the side"));
}

void NeckView::show_shape(std::shared_ptr<const BaseKit> kit, std::shared_ptr<const Points> shape, const Vec3& moved) {
    kit_ = std::move(kit), shape_ = std::move(shape), moved_ = moved;
    if (kit_ && edges_of_ != kit_) {
        edges_of_ = kit_;
        edges_ = neck_edges(*kit_, kBelowMm, kAboveMm);
    }
    update();
}

void NeckView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), theme::kBackground);
    p.setPen(theme::kDim);
    if (!kit_ || kit_->neck_ring.empty())
        return p.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap,
                          kit_ ? tr("The kit names no neck ring.") : QString());
    const Vec3 ring = neck_middle(*kit_);
    const double scale = height() / (kAboveMm + kBelowMm);
    for (int pane = 0; pane < 2; ++pane) {
        const QRectF box(pane * width() / 2.0, 0, width() / 2.0, height());
        p.setClipRect(box);
        const auto flat = [&](const Vec3& x) {
            const double across = pane == 0 ? x.x() - ring.x() : -(x.z() - ring.z());
            return QPointF(box.center().x() + scale * across, scale * (kAboveMm - (x.y() - ring.y())));
        };
        const auto draw = [&](const Points& points, const Vec3& by, const QColor& colour) {
            p.setPen(QPen(colour, 0.7));
            std::vector<QLineF> lines;
            for (const auto& [a, b] : edges_) lines.emplace_back(flat(points[a] + by), flat(points[b] + by));
            p.setRenderHint(QPainter::Antialiasing);
            p.drawLines(lines.data(), static_cast<int>(lines.size()));
            p.setPen(QPen(colour, 2));
            std::vector<QPointF> ring_points;
            for (const Index v : kit_->neck_ring) ring_points.push_back(flat(points[v] + by));
            p.drawPoints(ring_points.data(), static_cast<int>(ring_points.size()));
        };
        draw(kit_->mesh.positions, Vec3::Zero(), theme::kDim.darker(150));
        if (shape_) draw(*shape_, moved_, theme::kOchre);
        const QString name = pane == 0 ? tr("front") : tr("side");
        p.fillRect(QRectF(box.left(), 0, p.fontMetrics().horizontalAdvance(name) + 10, 19), theme::kBackground);
        p.setPen(theme::kDim);
        p.drawText(box.adjusted(5, 1, -5, -2), Qt::AlignTop | Qt::AlignLeft, name);
    }
    p.setClipping(false);
    p.setPen(theme::kLine);
    p.drawLine(width() / 2, 0, width() / 2, height());
}

}  // namespace veld
