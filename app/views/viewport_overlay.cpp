// What lies over the picture: lines and markers, title, scale and key, words.
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/colour_maps.h"
#include "app/theme.h"
#include "app/views/header.h"
#include "app/views/viewport.h"

namespace veld {
namespace {

constexpr double kFarPixels = 10000;
constexpr int kMargin = 10, kScaleWidth = 11, kMostScale = 150, kLeastScale = 40;
constexpr std::size_t kSamples = 1500;  // vertices that are asked where the picture is
const QColor kVeil(0x26, 0x23, 0x20, 150);

}  // namespace

void Viewport::draw_overlay() {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    draw_lines(painter);
    for (const bool selected : {false, true}) {
        for (const Marker& m : markers_) {
            if (m.selected == selected) draw_marker(painter, m, screen_of(m.position), width());
        }
    }
    if (loupe_ && gesture_ == Gesture::Turn) draw_loupe(painter);
    if (gesture_ != Gesture::Turn) draw_gesture(painter);
    if (divider_ >= 0) {
        painter.setPen(QPen(theme::kText, 1));
        painter.drawLine(QPointF(divider_ * width(), 32), QPointF(divider_ * width(), height()));
    }
    draw_corners(painter);
    draw_title(painter);
    draw_words(painter);
}

void Viewport::draw_lines(QPainter& painter) {
    for (const GuideLine& line : lines_) {
        // in pieces: what is behind the camera projects to the ends of the world, and a painter that dashes its
        // way there takes all memory
        QPolygonF piece;
        for (const Vec3& p : line.points) {
            const QPointF at = screen_of(p);
            if (std::abs(at.x()) < kFarPixels && std::abs(at.y()) < kFarPixels) {
                piece << at;
                continue;
            }
            draw_guide_line(painter, line, piece);
            piece.clear();
        }
        draw_guide_line(painter, line, piece);
    }
}

void Viewport::draw_title(QPainter& painter) {
    if (bare_) return;
    QFont bold = font();
    bold.setWeight(QFont::DemiBold);
    painter.setPen(Qt::NoPen);
    painter.setBrush(kVeil);
    painter.drawRect(0, 0, width(), kHeaderHeight);
    if (hasFocus()) {  // the keys go here
        painter.setPen(QPen(theme::kOchre, 2));
        painter.drawLine(0, kHeaderHeight - 1, width(), kHeaderHeight - 1);
    }
    painter.setFont(bold);
    painter.setPen(theme::kText);
    painter.drawText(QRect(kTitleLeft, 6, width() - kTitleLeft - 12, 20), Qt::AlignLeft | Qt::AlignVCenter,
                     painter.fontMetrics().elidedText(title_, Qt::ElideMiddle, width() - kTitleLeft - 118));
    painter.setFont(font());
    painter.setPen(theme::kDim);
    const Camera& c = camera_->camera();
    const QString lens = c.photo
                             ? c.photo->camera.parallel
                                   ? tr("%1, parallel").arg(backdrop_.name)
                                   : tr("%1, %2 mm").arg(backdrop_.name).arg(c.photo->camera.focal_35mm(), 0, 'f', 0)
                         : c.orthographic ? tr("orthographic")
                                          : tr("FOV %1°").arg(c.field_of_view, 0, 'f', 0);
    painter.drawText(QRect(12, 6, width() - 24, 20), Qt::AlignRight | Qt::AlignVCenter, lens);
}

// What a click does, and what there is to say when nothing is shown.
void Viewport::draw_words(QPainter& painter) {
    if (!prompt_.isEmpty()) {
        const QRect text = painter.fontMetrics().boundingRect(rect().adjusted(40, 0, -40, 0),
                                                              Qt::AlignHCenter | Qt::TextWordWrap, prompt_);
        const QRect box(width() / 2 - text.width() / 2 - 12, height() - text.height() - 26, text.width() + 24,
                        text.height() + 12);
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(0x26, 0x23, 0x20, 215));
        painter.drawRoundedRect(box, 4, 4);
        painter.setPen(theme::kText);
        painter.drawText(box, Qt::AlignCenter | Qt::TextWordWrap, prompt_);
    }
    const QString message = !busy_.isEmpty() ? busy_ : layers_.empty() ? hint_ : QString();
    if (!message.isEmpty()) {
        painter.setPen(theme::kText);
        painter.drawText(rect().adjusted(30, 30, -30, -30), Qt::AlignCenter | Qt::TextWordWrap, message);
    }
}

// The surface drawn anew through a narrower lens around the pointer: sharp, not enlarged pixels.
void Viewport::draw_loupe(QPainter& painter) {
    if (loupe_image_.isNull()) return;
    const QPointF at = loupe_place(pointer_, size());
    QPainterPath circle;
    circle.addEllipse(at, kLoupeRadius, kLoupeRadius);
    painter.save();
    painter.setClipPath(circle);
    painter.drawImage(QRectF(at - QPointF(kLoupeRadius, kLoupeRadius), QSizeF(2 * kLoupeRadius, 2 * kLoupeRadius)),
                      loupe_image_);
    for (const Marker& m : markers_) {
        if (m.hidden) continue;
        const QPointF away = (screen_of(m.position) - pointer_) * kLoupeTimes;
        if (std::hypot(away.x(), away.y()) > kLoupeRadius) continue;
        Marker plain = m;
        plain.label.clear();
        draw_marker(painter, plain, at + away, width());
    }
    painter.restore();
    draw_loupe_frame(painter, at, kLoupeRadius);
}

// The corner in which the least of the picture would be covered.
QRect Viewport::free_corner(const QSize& box) const {
    const int right = width() - box.width() - kMargin, bottom = height() - box.height() - kMargin,
              top = kHeaderHeight + kMargin;
    std::vector<QRect> corners;
    for (const QPoint& at :
         {QPoint(kMargin, bottom), QPoint(kMargin, top), QPoint(right, bottom), QPoint(right, top)}) {
        const QRect corner(at, box);
        if (std::none_of(taken_.begin(), taken_.end(), [&](const QRect& r) { return r.intersects(corner); }))
            corners.push_back(corner);
    }
    if (corners.empty()) return QRect(QPoint(kMargin, bottom), box);
    std::vector<int> covered(corners.size(), 0);
    for (const Layer& layer : layers_) {
        const auto& all = layer.mesh->vertices;
        const std::size_t step = std::max<std::size_t>(1, all.size() / kSamples);
        for (std::size_t v = 0; v < all.size(); v += step) {
            const float* p = all[v].position;
            const QPoint at = screen_of(layer.model(Vec3(p[0], p[1], p[2]))).toPoint();
            for (std::size_t i = 0; i < corners.size(); ++i) covered[i] += corners[i].contains(at);
        }
    }
    return corners[static_cast<std::size_t>(std::min_element(covered.begin(), covered.end()) - covered.begin())];
}

// The scale of colours and the key of lines, each in a corner of its own.
void Viewport::draw_corners(QPainter& painter) {
    taken_.clear();
    if (legend_.worst > 0) draw_legend(painter);
    if (!key_.empty()) draw_key(painter);
}

void Viewport::draw_legend(QPainter& painter) {
    constexpr int kSteps = 4;
    const int bar = std::min(kMostScale, height() - 120);
    if (bar < kLeastScale) return;
    QStringList texts;
    int wide = 0;
    for (int i = 0; i <= kSteps; ++i) {
        const double value =
            (legend_.both_ways ? legend_.worst * (i - 2) / 2 : legend_.worst * i / kSteps) / legend_.per;
        texts << (legend_.both_ways && value > 0 ? "+" : "") + QString::number(value, 'g', 3) +
                     (i < kSteps     ? QString()
                      : legend_.open ? tr(" %1 and more").arg(legend_.unit)
                                     : " " + legend_.unit);
        wide = std::max(wide, painter.fontMetrics().horizontalAdvance(texts.back()));
    }
    const QRect box = free_corner(QSize(kScaleWidth + wide + 24, bar + 20));
    taken_.push_back(box);
    const int left = box.left() + 8, top = box.top() + 10;
    painter.setPen(Qt::NoPen);
    painter.setBrush(kVeil);
    painter.drawRoundedRect(box, 4, 4);
    for (int y = 0; y < bar; ++y) {
        const double t = 1.0 - static_cast<double>(y) / (bar - 1);
        painter.setPen(legend_.both_ways ? signed_colour(2 * t - 1) : distance_colour(t));
        painter.drawLine(left, top + y, left + kScaleWidth, top + y);
    }
    painter.setPen(theme::kText);
    for (int i = 0; i <= kSteps; ++i) {
        const int y = top + bar - 1 - i * (bar - 1) / kSteps;
        painter.drawLine(left + kScaleWidth + 1, y, left + kScaleWidth + 4, y);
        painter.drawText(left + kScaleWidth + 8, y + 5, texts[i]);
    }
}

void Viewport::draw_key(QPainter& painter) {
    constexpr int kRow = 18, kDash = 22;
    int wide = 0;
    for (const KeyLine& line : key_) wide = std::max(wide, painter.fontMetrics().horizontalAdvance(line.name));
    const QRect box = free_corner(QSize(kDash + wide + 26, kRow * static_cast<int>(key_.size()) + 10));
    taken_.push_back(box);
    painter.setPen(Qt::NoPen);
    painter.setBrush(kVeil);
    painter.drawRoundedRect(box, 4, 4);
    int y = box.top() + 5 + kRow / 2;
    for (const KeyLine& line : key_) {
        painter.setPen(QPen(line.colour, 2, line.broken ? Qt::DashLine : Qt::SolidLine));
        painter.drawLine(box.left() + 8, y, box.left() + 8 + kDash, y);
        painter.setPen(theme::kText);
        painter.drawText(QRect(box.left() + 16 + kDash, y - kRow / 2, wide + 4, kRow), Qt::AlignVCenter, line.name);
        y += kRow;
    }
}

}  // namespace veld
