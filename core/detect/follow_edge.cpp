#include "core/detect/follow_edge.h"

#include <algorithm>
#include <cmath>

namespace veld {
namespace {

constexpr int kStepWindow = 3;                           // rows on each side of an edge, and as many beyond them
constexpr double kCarriedOn = 0.6;                       // of the way from there to the edge
constexpr double kMostStepMm = 2.5;                      // a lid is not thicker; brows and cheeks are
constexpr double kAsideCosts = 0.02, kBendCosts = 0.06;  // mm of step for each row
constexpr int kMostBend = 3;                             // rows from one column to the next
constexpr double kLeastStepMm = 0.4, kStillAnEdgeMm = 0.25;
constexpr double kMeetOverMm = 7, kMostBeyondMm = 6;  // of the edges that is carried on, and how far
constexpr int kMeetSamples = 15;

double mean_height(std::span<const double> heights, int from, int to) {
    if (from < 0 || to >= static_cast<int>(heights.size())) return kNotSeen;
    double sum = 0;
    for (int r = from; r <= to; ++r) {
        const double h = heights[static_cast<std::size_t>(r)];
        if (h == kNotSeen) return kNotSeen;
        sum += h;
    }
    return sum / (to - from + 1);
}

// The place of a line at that x; nothing beyond its ends or where its steps are none.
std::optional<Vec3> at_x(const Edge& edge, double x) {
    const Points& line = edge.line;
    for (std::size_t i = 1; i < line.size(); ++i) {
        const double a = line[i - 1].x(), b = line[i].x();
        if ((x - a) * (x - b) > 0 || a == b) continue;
        if (std::min(edge.edge.steps[i - 1], edge.edge.steps[i]) < kStillAnEdgeMm) return {};
        return line[i - 1] + (x - a) / (b - a) * (line[i] - line[i - 1]);
    }
    return {};
}

}  // namespace

double step_at(std::span<const double> heights, int r) {
    const double near_above = mean_height(heights, r + 1, r + kStepWindow),
                 far_above = mean_height(heights, r + kStepWindow + 1, r + 2 * kStepWindow),
                 near_below = mean_height(heights, r - kStepWindow, r - 1),
                 far_below = mean_height(heights, r - 2 * kStepWindow, r - kStepWindow - 1);
    if (near_above == kNotSeen || far_above == kNotSeen || near_below == kNotSeen || far_below == kNotSeen)
        return kNotSeen;
    const double above = near_above + kCarriedOn * (near_above - far_above),
                 below = near_below + kCarriedOn * (near_below - far_below);
    return std::clamp(above - below, -kMostStepMm, kMostStepMm);
}

std::optional<FollowedEdge> follow_edge(const std::vector<std::vector<double>>& heights, double sign) {
    constexpr int kWide = 2 * kMostAside + 1;
    const std::size_t n = heights.size();
    if (n < 5) return {};
    std::vector<std::array<double, kWide>> worth(n), steps(n);
    std::vector<std::array<int, kWide>> from(n);
    for (std::size_t i = 0; i < n; ++i) {
        const bool end = i == 0 || i + 1 == n;  // upper and lower edge meet there
        for (int k = 0; k < kWide; ++k) {
            const auto at = static_cast<std::size_t>(k);
            const double step = end ? kNotSeen : step_at(heights[i], k + kRowsBeyond);
            steps[i][at] = step == kNotSeen ? 0 : sign * step;
            double before = i ? -1e18 : 0;
            for (int b = std::max(0, k - kMostBend); i && b <= std::min(kWide - 1, k + kMostBend); ++b) {
                const double w = worth[i - 1][static_cast<std::size_t>(b)] - kBendCosts * std::abs(b - k);
                if (w > before) before = w, from[i][at] = b;
            }
            worth[i][at] = before + steps[i][at] - kAsideCosts * std::abs(k - kMostAside);
        }
    }
    FollowedEdge out;
    out.aside.resize(n), out.steps.resize(n);
    auto k =
        static_cast<std::size_t>(std::max_element(worth[n - 1].begin(), worth[n - 1].end()) - worth[n - 1].begin());
    for (std::size_t i = n; i-- > 0;) {
        out.aside[i] = static_cast<int>(k) - kMostAside;
        out.steps[i] = steps[i][k];
        out.mean_step += steps[i][k] / static_cast<double>(n - 2);
        if (i > 0) k = static_cast<std::size_t>(from[i][k]);
    }
    if (out.mean_step < kLeastStepMm) return {};
    return out;
}

std::optional<Vec3> where_edges_meet(const EdgePair& edges, bool first) {
    const Points &upper = edges.upper.line, &lower = edges.lower.line;
    const double end = 0.5 * (first ? upper.front().x() + lower.front().x() : upper.back().x() + lower.back().x()),
                 other = 0.5 * (first ? upper.back().x() + lower.back().x() : upper.front().x() + lower.front().x());
    const double way = end > other ? 1 : -1;
    // from the middle outwards as far as both are edges
    std::vector<double> x, gap;
    Points middle;
    for (double at = 0.5 * (end + other); way * (at - end) < kMostBeyondMm; at += way * kMeetOverMm / kMeetSamples) {
        const auto a = at_x(edges.upper, at), b = at_x(edges.lower, at);
        if (!a || !b || a->y() - b->y() < 0.2) {
            if (x.empty()) continue;
            break;
        }
        x.push_back(at), gap.push_back(a->y() - b->y()), middle.push_back(0.5 * (*a + *b));
    }
    if (x.size() < kMeetSamples) return {};
    // straight lines through the last of them
    const std::size_t last = x.size() - 1, begin = x.size() - kMeetSamples;
    double n = 0, sx = 0, sxx = 0, sg = 0, sxg = 0;
    Vec3 sm = Vec3::Zero(), sxm = Vec3::Zero();
    for (std::size_t i = begin; i <= last; ++i) {
        const double d = x[i] - x[last];
        n += 1, sx += d, sxx += d * d, sg += gap[i], sxg += d * gap[i], sm += middle[i], sxm += d * middle[i];
    }
    const double det = n * sxx - sx * sx, slope = (n * sxg - sx * sg) / det, height = (sg - slope * sx) / n;
    if (way * slope > -0.05) return {};  // they do not come together
    const double beyond = std::min(kMostBeyondMm, way * -height / slope);
    const Vec3 lean = (n * sxm - sx * sm) / det;
    return Vec3(sm / n + (way * beyond - sx / n) * lean);
}

}  // namespace veld
