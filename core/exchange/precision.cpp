#include "core/exchange/precision.h"

#include <algorithm>
#include <cmath>

namespace veld {

double precision_of(const Points& numbers) {
    if (numbers.empty()) return 0;
    const std::size_t stride = std::max<std::size_t>(numbers.size() / 500, 1);
    double largest = 0;
    bool single = true;
    std::vector<double> sample;
    for (std::size_t i = 0; i < numbers.size(); i += stride) {
        for (int k = 0; k < 3; ++k) {
            const double x = numbers[i][k];
            largest = std::max(largest, std::abs(x));
            single &= static_cast<double>(static_cast<float>(x)) == x;
            sample.push_back(x);
        }
    }
    for (int digits = 0; digits <= 6; ++digits) {
        const double step = std::pow(10, -digits);
        if (std::all_of(sample.begin(), sample.end(),
                        [&](double x) { return std::abs(x / step - std::round(x / step)) < 1e-7; }))
            return step;
    }
    return single ? largest * std::ldexp(1.0, -23) : 0;
}

}  // namespace veld
