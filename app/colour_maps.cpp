#include "app/colour_maps.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {

double to_linear(double c) { return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); }
double from_linear(double c) {
    c = std::clamp(c, 0.0, 1.0);
    return c <= 0.0031308 ? 12.92 * c : 1.055 * std::pow(c, 1 / 2.4) - 0.055;
}

struct Map {
    QColor low, middle, high;         // of distances
    QColor inside, nothing, outside;  // of what has a sign
};

const Map& map_for(ColourVision of) {
    static const Map maps[] = {{{0xe9, 0xe2, 0xd4},
                                {0x4d, 0xa0, 0x98},
                                {0x34, 0x22, 0x52},
                                {0x17, 0x5a, 0x66},
                                {0xe9, 0xe2, 0xd4},
                                {0x7a, 0x45, 0x1d}},
                               {{0xf0, 0xe6, 0xc4},
                                {0x5f, 0x92, 0xc4},
                                {0x1c, 0x20, 0x56},
                                {0x1f, 0x4d, 0x9c},
                                {0xec, 0xe6, 0xd6},
                                {0x76, 0x58, 0x08}},
                               {{0xf0, 0xe4, 0xc8},
                                {0x6c, 0x8e, 0xc8},
                                {0x24, 0x1d, 0x58},
                                {0x2a, 0x4a, 0x9e},
                                {0xec, 0xe6, 0xd6},
                                {0x78, 0x56, 0x0c}},
                               {{0xef, 0xe6, 0xdf},
                                {0xb8, 0x7d, 0x76},
                                {0x0c, 0x33, 0x38},
                                {0x0d, 0x5f, 0x5e},
                                {0xec, 0xe6, 0xdf},
                                {0x8e, 0x35, 0x42}},
                               {{0xf0, 0xf0, 0xf0},
                                {0x8a, 0x8a, 0x8a},
                                {0x1c, 0x1c, 0x1c},
                                {0x16, 0x16, 0x16},
                                {0x86, 0x86, 0x86},
                                {0xf6, 0xf6, 0xf6}}};
    return maps[static_cast<std::size_t>(of)];
}

ColourVision now = ColourVision::Usual;

QColor between(const QColor& from, const QColor& to, double f) {
    const OkLab a = oklab(from), b = oklab(to);
    OkLab c;
    for (std::size_t k = 0; k < 3; ++k) c[k] = (1 - f) * a[k] + f * b[k];
    return from_oklab(c);
}

}  // namespace

OkLab oklab(const QColor& colour) {
    const double r = to_linear(colour.redF()), g = to_linear(colour.greenF()), b = to_linear(colour.blueF());
    const double l = std::cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
    const double m = std::cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
    const double s = std::cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
    return {0.2104542553 * l + 0.7936177850 * m - 0.0040720468 * s,
            1.9779984951 * l - 2.4285922050 * m + 0.4505937099 * s,
            0.0259040371 * l + 0.7827717662 * m - 0.8086757660 * s};
}

QColor from_oklab(const OkLab& c) {
    const double l = std::pow(c[0] + 0.3963377774 * c[1] + 0.2158037573 * c[2], 3);
    const double m = std::pow(c[0] - 0.1055613458 * c[1] - 0.0638541728 * c[2], 3);
    const double s = std::pow(c[0] - 0.0894841775 * c[1] - 1.2914855480 * c[2], 3);
    return QColor::fromRgbF(static_cast<float>(from_linear(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s)),
                            static_cast<float>(from_linear(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s)),
                            static_cast<float>(from_linear(-0.0041960863 * l - 0.7034186147 * m + 1.7076147010 * s)));
}

void set_colour_vision(ColourVision of) { now = of; }
ColourVision colour_vision() { return now; }

QColor distance_colour(double t) {
    const Map& map = map_for(now);
    const double x = std::clamp(t, 0.0, 1.0) * 2;
    return x < 1 ? between(map.low, map.middle, x) : between(map.middle, map.high, x - 1);
}

QColor signed_colour(double t) {
    const Map& map = map_for(now);
    return between(map.nothing, t < 0 ? map.inside : map.outside, std::min(std::abs(t), 1.0));
}

}  // namespace veld
