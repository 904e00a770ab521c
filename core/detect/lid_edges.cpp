#include "core/detect/lid_edges.h"

#include <cmath>

namespace veld {
namespace {

constexpr double kEyeRayMm = 40;      // rays begin so far before the eyeball's centre
constexpr double kNotTheBallMm = 10;  // what lies farther from the ball is no lid

}  // namespace

std::array<double, 2> EyeFrame::angles(const Vec3& p) const {
    const Vec3 d = (p - centre).normalized();
    return {std::atan2(left ? d.x() : -d.x(), d.z()) * 180 / M_PI, std::asin(d.y()) * 180 / M_PI};
}

Vec3 EyeFrame::direction(double out, double up) const {
    const double o = out * M_PI / 180, u = up * M_PI / 180;
    return {(left ? 1 : -1) * std::sin(o) * std::cos(u), std::sin(u), std::cos(o) * std::cos(u)};
}

double EyeFrame::height(const SurfaceQuery& surface, double out, double up) const {
    const Vec3 d = direction(out, up);
    const SurfaceHit hit = surface.first_hit(centre + kEyeRayMm * d, -d);
    const double far = hit ? (hit.position - centre).dot(d) : kNotSeen;
    return std::abs(far - radius) < kNotTheBallMm ? far : kNotSeen;
}

std::optional<Edge> follow_lid(const SurfaceQuery& surface, const EyeFrame& eye, const Points& guess, bool upper) {
    std::vector<std::vector<double>> heights;
    std::vector<std::array<double, 2>> at;
    for (const Vec3& p : guess) {
        at.push_back(eye.angles(p));
        heights.emplace_back();
        for (int r = -kEdgeRows / 2; r <= kEdgeRows / 2; ++r)
            heights.back().push_back(eye.height(surface, at.back()[0], at.back()[1] + r));
    }
    auto edge = follow_edge(heights, upper ? 1 : -1);
    if (!edge) return {};
    Edge out{{}, std::move(*edge)};
    for (std::size_t i = 0; i < guess.size(); ++i) {
        // a little onto the lid, whose edge it is
        const double up = at[i][1] + out.edge.aside[i] + (upper ? 1 : -1);
        const double far = eye.height(surface, at[i][0], up);
        out.line.push_back(far == kNotSeen ? guess[i] : Vec3(eye.centre + far * eye.direction(at[i][0], up)));
    }
    return out;
}

}  // namespace veld
