#include "app/stations/bank/face_map.h"

#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <cmath>

#include "app/theme.h"
#include "core/kit/kit_surface.h"

namespace veld {

FaceMap::FaceMap(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setMinimumHeight(150);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("Map of the head's regions"));
}

void FaceMap::show_kit(const BaseKit& kit, const BaseRegions& regions) {
    names_ = regions.names;
    facets_.clear();
    const Box box = head_box(kit);
    const double low = box.low.y() - 0.1 * box.size().y(), size = box.high.y() - low;
    const auto& triangles = kit.triangulation.triangles;
    for (const Triangle& t : triangles) {
        const Vec3 &a = kit.mesh.positions[t[0]], &b = kit.mesh.positions[t[1]], &c = kit.mesh.positions[t[2]];
        if (std::min({a.y(), b.y(), c.y()}) < low) continue;
        const Vec3 n = (b - a).cross(c - a).normalized();
        for (int pane = 0; pane < 2; ++pane) {
            // front, and the subject's own left side
            const double facing = pane == 0 ? n.z() : n.x();
            if (!(facing > 0)) continue;
            const auto flat = [&](const Vec3& p) {
                const double across = pane == 0 ? p.x() - box.centre().x() : -(p.z() - box.centre().z());
                return QPointF(0.5 + across / size, (box.high.y() - p.y()) / size);
            };
            Facet f;
            f.shape = QPolygonF({flat(a), flat(b), flat(c)});
            f.depth = pane == 0 ? a.z() + b.z() + c.z() : a.x() + b.x() + c.x();
            f.light = 0.35 + 0.65 * std::max(0.0, n.dot(Vec3(pane == 0 ? 0.3 : 0.7, 0.5, 0.7).normalized()));
            f.region = regions.owner[t[0]];
            f.pane = pane;
            facets_.push_back(std::move(f));
        }
    }
    std::sort(facets_.begin(), facets_.end(), [](const Facet& a, const Facet& b) { return a.depth < b.depth; });
    draw();
}

void FaceMap::show_state(const std::string& selected, const std::set<std::string>& mixed) {
    if (selected == selected_ && mixed == mixed_) return;
    selected_ = selected, mixed_ = mixed;
    draw();
}

void FaceMap::draw() {
    const double ratio = devicePixelRatioF();
    const QSize pixels = size() * ratio;
    picture_ = QPixmap(pixels);
    picture_.setDevicePixelRatio(ratio);
    picture_.fill(Qt::transparent);
    regions_ = QImage(size(), QImage::Format_Grayscale8);
    regions_.fill(0);
    QPainter p(&picture_), ids(&regions_);
    p.setRenderHint(QPainter::Antialiasing);
    // a head is narrower than high; shoulders may be cut off
    const double side = std::min<double>(height(), width() / 2.0 / 0.78);
    QTransform pane[2];
    for (int k = 0; k < 2; ++k)
        pane[k] = QTransform::fromTranslate(width() / 2.0 * k + (width() / 2.0 - side) / 2, (height() - side) / 2)
                      .scale(side, side);
    for (const Facet& f : facets_) {
        const QRectF own(f.pane * width() / 2.0, 0, width() / 2.0, height());
        p.setClipRect(own);
        ids.setClipRect(own);
        const bool selected = names_[static_cast<std::size_t>(f.region)] == selected_, under = f.region == hovered_;
        // neighbours differ a little, the current one a lot
        QColor c = selected            ? theme::kOchre
                   : f.region % 3 == 0 ? QColor(0xa8, 0x9d, 0x8e)
                   : f.region % 3 == 1 ? QColor(0x8d, 0x83, 0x76)
                                       : QColor(0x9b, 0x94, 0x90);
        if (under && !selected) c = c.lighter(122);
        c = QColor::fromRgbF(static_cast<float>(c.redF() * f.light), static_cast<float>(c.greenF() * f.light),
                             static_cast<float>(c.blueF() * f.light));
        const QPolygonF shape = pane[f.pane].map(f.shape);
        p.setPen(QPen(c, 0.6));  // closes the hairlines between neighbours
        p.setBrush(c);
        p.drawPolygon(shape);
        const QColor id(f.region + 1, f.region + 1, f.region + 1);
        ids.setPen(id);
        ids.setBrush(id);
        ids.drawPolygon(shape);
    }
    p.setClipping(false);
    for (const std::string& name : mixed_) {
        const QPoint at = place_of(name);
        if (at.isNull()) continue;
        p.setPen(QPen(theme::kBackground, 1.2));
        p.setBrush(theme::kTeal);
        p.drawEllipse(QPointF(at), 4, 4);
    }
    update();
}

QPoint FaceMap::place_of(const std::string& region) const {
    const auto at = std::find(names_.begin(), names_.end(), region);
    if (at == names_.end()) return {};
    const int id = static_cast<int>(at - names_.begin()) + 1;
    // the pixel farthest in: of those that are its own, the one nearest to their mean
    double x = 0, y = 0, n = 0;
    for (int j = 0; j < regions_.height(); ++j) {
        for (int i = 0; i < regions_.width(); ++i) {
            if (qGray(regions_.pixel(i, j)) == id) x += i, y += j, ++n;
        }
    }
    if (n < 4) return {};
    QPoint best;
    double least = 1e300;
    for (int j = 0; j < regions_.height(); ++j) {
        for (int i = 0; i < regions_.width(); ++i) {
            const double d = (i - x / n) * (i - x / n) + (j - y / n) * (j - y / n);
            if (qGray(regions_.pixel(i, j)) == id && d < least) least = d, best = QPoint(i, j);
        }
    }
    return best;
}

int FaceMap::region_at(const QPoint& at) const {
    return regions_.rect().contains(at) ? qGray(regions_.pixel(at)) - 1 : -1;
}

void FaceMap::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.drawPixmap(0, 0, picture_);
}

void FaceMap::mousePressEvent(QMouseEvent* event) {
    const int region = region_at(event->position().toPoint());
    if (region >= 0) emit picked(QString::fromStdString(names_[static_cast<std::size_t>(region)]));
}

void FaceMap::mouseMoveEvent(QMouseEvent* event) {
    const int region = region_at(event->position().toPoint());
    setCursor(region >= 0 ? Qt::PointingHandCursor : Qt::ArrowCursor);
    if (region == hovered_) return;
    hovered_ = region;
    draw();
    if (region >= 0)
        QToolTip::showText(event->globalPosition().toPoint(),
                           QString::fromStdString(names_[static_cast<std::size_t>(region)]), this);
}

void FaceMap::leaveEvent(QEvent*) {
    hovered_ = -1;
    draw();
}

void FaceMap::resizeEvent(QResizeEvent*) { draw(); }

}  // namespace veld
