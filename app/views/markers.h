#pragma once
// Points and lines over a view, drawn alike over surfaces and photographs. Shape tells what colour tells:
// rings lie on the source, diamonds on the base, a broken ring is unsure, a square is locked, small squares
// are handles of a curve, dots are only looked at.
#include <QColor>
#include <QPainter>
#include <QPolygonF>
#include <string>
#include <vector>

#include "core/base/types.h"

namespace veld {

enum class MarkerShape { Ring, Diamond, Unsure, Square, Handle, Dot };

struct Marker {
    std::string name;
    Vec3 position = Vec3::Zero();  // of a photograph: pixels, z 0
    QColor colour;
    QString label;  // shown when selected
    bool selected = false;
    bool hidden = false;  // behind the surface: drawn faint
    MarkerShape shape = MarkerShape::Ring;
};

struct GuideLine {
    Points points;
    QColor colour;
    bool selected = false, dashed = false;
};

void draw_marker(QPainter& painter, const Marker& marker, const QPointF& at, int view_width);
void draw_guide_line(QPainter& painter, const GuideLine& line, const QPolygonF& on_screen);
// Cross-hairs and rim of a loupe of this radius.
void draw_loupe_frame(QPainter& painter, const QPointF& centre, double radius);
constexpr double kLoupeRadius = 84, kLoupeTimes = 6;
// Where a loupe for this pointer is drawn: beside it, inside the view.
QPointF loupe_place(const QPointF& pointer, const QSize& view);

}  // namespace veld
