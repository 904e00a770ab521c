#pragma once
// Colours that figures are shown in. Perceptually even [Ottosson 2020, OKLab]: lightness alone tells as much.
#include <QColor>
#include <array>

namespace veld {

using OkLab = std::array<double, 3>;
OkLab oklab(const QColor& colour);
QColor from_oklab(const OkLab& colour);

// Whose eyes the maps are made for: of those whose red, green or blue receptors are missing or weak, and of those who
// see no colours.
enum class ColourVision { Usual, RedWeak, GreenWeak, BlueWeak, None };
void set_colour_vision(ColourVision of);
ColourVision colour_vision();

// For 0..1; lightness falls steadily.
QColor distance_colour(double t);
// For -1..1: what lies inside, nothing, what lies outside. As light on both sides, but for eyes that see no colours:
// dark inside, light outside.
QColor signed_colour(double t);

}  // namespace veld
