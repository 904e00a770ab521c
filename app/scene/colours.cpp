#include "app/scene/colours.h"

#include <algorithm>
#include <cmath>

#include "app/colour_maps.h"
#include "app/lengths.h"
#include "app/theme.h"

namespace veld {
namespace {

const QColor kNoValue(0x6a, 0x63, 0x5a);

QColor look_colour(const Look& look, float value) {
    if (look.colours == Colouring::SeenBy)
        return value > 1.5f ? theme::kTeal : value > 0.5f ? theme::kOchre : kNoValue;
    if (std::isnan(value)) return kNoValue;
    return both_ways(look.colours) ? signed_colour(value / look.worst) : distance_colour(value / look.worst);
}

template <class Of>
std::vector<Colour> each(const std::vector<float>& values, Of&& colour) {
    std::vector<Colour> out;
    out.reserve(values.size());
    for (const float v : values) out.push_back(bytes_of(colour(v)));
    return out;
}

}  // namespace

Colour bytes_of(const QColor& c) {
    return {static_cast<std::uint8_t>(c.red()), static_cast<std::uint8_t>(c.green()),
            static_cast<std::uint8_t>(c.blue()), 255};
}

QColor between(const QColor& a, const QColor& b, double t) {
    return QColor::fromRgbF(static_cast<float>(a.redF() + t * (b.redF() - a.redF())),
                            static_cast<float>(a.greenF() + t * (b.greenF() - a.greenF())),
                            static_cast<float>(a.blueF() + t * (b.blueF() - a.blueF())));
}

std::vector<Colour> share_colours(const std::vector<float>& weights) {
    return each(weights, [](float w) { return distance_colour(static_cast<double>(w)); });
}

std::vector<Colour> look_colours(const Look& look, const std::vector<float>& values) {
    return each(values, [&](float v) { return look_colour(look, v); });
}

std::vector<Colour> distance_colours(const std::vector<float>& values, double worst) {
    return each(values, [&](float v) { return std::isnan(v) ? kNoValue : distance_colour(v / worst); });
}

double scale_for(std::vector<float> values) {
    std::erase_if(values, [](float v) { return std::isnan(v); });
    if (values.empty()) return 1;
    const auto at = values.begin() + static_cast<std::ptrdiff_t>(0.98 * static_cast<double>(values.size() - 1));
    std::nth_element(values.begin(), at, values.end());
    for (const double step : {0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0}) {
        if (static_cast<double>(*at) <= step) return step;
    }
    return 500;
}

Legend length_legend(double worst_mm, const QString& words, bool both_ways) {
    return {worst_mm, words.arg(length_name()), both_ways, true, length_mm(length_units().unit())};
}

}  // namespace veld
