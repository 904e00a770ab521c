#pragma once
// Robust weights and order statistics.
#include <algorithm>
#include <cmath>
#include <vector>

namespace veld {

// Geman-McClure weight of a residual: 1 at 0, 1/4 at `scale`, falling with the fourth power.
inline double geman_mcclure(double residual, double scale) {
    const double s2 = scale * scale, w = s2 / (s2 + residual * residual);
    return w * w;
}

// The value below which the fraction q of the numbers lies (nearest rank); 0 for no numbers.
inline double quantile(std::vector<double> values, double q) {
    if (values.empty()) return 0;
    const auto at = static_cast<std::ptrdiff_t>(std::llround(q * static_cast<double>(values.size() - 1)));
    std::nth_element(values.begin(), values.begin() + at, values.end());
    return values[static_cast<std::size_t>(at)];
}
inline double median(std::vector<double> values) { return quantile(std::move(values), 0.5); }

}  // namespace veld
