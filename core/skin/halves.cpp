#include "core/skin/halves.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace veld {
namespace {

constexpr double kMoreSeen = 0.2, kMoreLit = 1.25, kMoreDetail = 4.0 / 3;
constexpr int kLeastPlaces = 20;

std::string of_both(const std::string& region) {
    const std::size_t n = region.size();
    return n > 2 && (region.ends_with("_l") || region.ends_with("_r")) ? region.substr(0, n - 2) : region;
}

}  // namespace

const char* skin_half_name(SkinHalf half) {
    return half == SkinHalf::Left ? "left" : half == SkinHalf::Right ? "right" : "both";
}

SkinHalf better_half(const HalfFigures& f) {
    const auto by = [](const double(&v)[2], bool clearly) {
        return !clearly ? SkinHalf::Both : v[0] > v[1] ? SkinHalf::Left : SkinHalf::Right;
    };
    const auto ratio = [](const double(&v)[2]) {
        const double low = std::min(v[0], v[1]), high = std::max(v[0], v[1]);
        return low > 1e-9 ? high / low : 1;
    };
    if (std::abs(f.seen[0] - f.seen[1]) > kMoreSeen) return by(f.seen, true);
    if (ratio(f.light) > kMoreLit) return by(f.light, true);
    return by(f.detail, ratio(f.detail) > kMoreDetail);
}

std::vector<HalfFigures> half_figures(const std::vector<HalfPlace>& places) {
    struct Sums {
        double all[2] = {0, 0}, seen[2] = {0, 0}, light[2] = {0, 0}, detail[2] = {0, 0}, detailed[2] = {0, 0};
    };
    std::map<std::string, Sums> of;
    for (const HalfPlace& p : places) {
        Sums& s = of[of_both(p.region)];
        const int k = p.left ? 0 : 1;
        s.all[k] += 1;
        if (!p.seen) continue;
        s.seen[k] += 1, s.light[k] += std::log(std::max(1e-3, p.light));
        if (p.detail >= 0) s.detail[k] += p.detail, s.detailed[k] += 1;
    }
    std::vector<HalfFigures> out;
    for (const auto& [region, s] : of) {
        if (s.all[0] < kLeastPlaces || s.all[1] < kLeastPlaces || s.seen[0] + s.seen[1] < kLeastPlaces) continue;
        HalfFigures one;
        one.region = region;
        for (int k = 0; k < 2; ++k) {
            one.seen[k] = s.seen[k] / s.all[k];
            if (s.seen[k] > 0) one.light[k] = std::exp(s.light[k] / s.seen[k]);
            if (s.detailed[k] > 0) one.detail[k] = s.detail[k] / s.detailed[k];
        }
        out.push_back(one);
    }
    return out;
}

}  // namespace veld
