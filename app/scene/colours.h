#pragma once
// Values on a shape as colours.
#include <QColor>
#include <vector>

#include "app/scene/look.h"
#include "app/views/viewport.h"
#include "core/mesh/mesh.h"

namespace veld {

Colour bytes_of(const QColor& c);
QColor between(const QColor& a, const QColor& b, double t);
// 0 .. 1: how much something belongs to what is shown
std::vector<Colour> share_colours(const std::vector<float>& weights);
// by the look's colouring and scale; NaN: grey
std::vector<Colour> look_colours(const Look& look, const std::vector<float>& values);
// A round length that most of the values are below, mm; NaN does not count.
double scale_for(std::vector<float> values);
// Of lengths up to this, in the unit that people prefer; words: what is said of them, with %1 for the unit.
Legend length_legend(double worst_mm, const QString& words = QStringLiteral("%1"), bool both_ways = false);
// 0 .. worst in the colours of a distance; NaN: grey
std::vector<Colour> distance_colours(const std::vector<float>& values, double worst);

}  // namespace veld
