#include "core/detect/ear_rim.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <optional>

namespace veld {
namespace {

constexpr double kRimStepMm = 0.75, kRimReachMm = 17, kEyeAwayMm = 45;
constexpr double kBeyondMm = 7;                    // what rises again within this is a fold
constexpr double kFallMm = 3.5, kLeastFallMm = 1;  // a clean edge falls so far; less than the other is none
constexpr double kInFromEdgeMm = 0.0;
constexpr double kRimFromGuess = 0.018,
                 kRimBend = 0.22;  // costs: per mm off the guess, per mm of change to the next ray

class RimTracer {
 public:
    RimTracer(const SourceSurface& surface, const RimView& view, const Points& guess)
        : surface_(surface), view_(view), rays_(guess.size()) {
        for (const Vec3& g : guess) {
            const Vec3 q = g - view.middle;
            const Vec2 flat(q.dot(view.back), q.dot(view.up));
            radius_.push_back(std::max(flat.norm(), 1.0)), way_.push_back(flat.normalized());
        }
        look();
    }
    std::vector<RimPoint> trace(const Points& guess) const;

 private:
    static constexpr int kSteps = 2 * static_cast<int>(kRimReachMm / kRimStepMm) + 1;
    static constexpr int kFar = static_cast<int>(kBeyondMm / kRimStepMm) + 1;
    struct Seen {
        double height = -kEyeAwayMm;
        Vec3 place = Vec3::Zero();
        bool there = false;
    };
    double radius_at(std::size_t ray, int step) const { return radius_[ray] + (step - kSteps / 2) * kRimStepMm; }
    void look();
    double fall(std::size_t ray, int step) const;

    const SourceSurface& surface_;
    const RimView view_;
    const std::size_t rays_;
    std::vector<double> radius_;
    std::vector<Vec2> way_;
    std::vector<std::vector<Seen>> seen_;  // per ray, kSteps and what lies beyond
};

void RimTracer::look() {
    seen_.assign(rays_, std::vector<Seen>(static_cast<std::size_t>(kSteps + kFar)));
    tbb::parallel_for(std::size_t{0}, rays_, [&](std::size_t ray) {
        for (int step = 0; step < kSteps + kFar; ++step) {
            const double r = radius_at(ray, step);
            if (r < 4) continue;
            const Vec3 from =
                view_.middle + r * (way_[ray].x() * view_.back + way_[ray].y() * view_.up) + kEyeAwayMm * view_.out;
            const SurfaceHit hit = surface_.query->first_front_hit(from, -view_.out);
            if (!hit || hit.distance > 2 * kEyeAwayMm) continue;
            seen_[ray][static_cast<std::size_t>(step)] = {kEyeAwayMm - hit.distance, hit.position, true};
        }
    });
}

// How far the surface falls behind this place, mm; less where it rises again soon.
double RimTracer::fall(std::size_t ray, int step) const {
    const auto at = [&](int s) { return seen_[ray][static_cast<std::size_t>(s)]; };
    if (!at(step).there) return 0;
    double highest = -kEyeAwayMm;
    for (int s = step + 1; s <= step + kFar - 1; ++s)
        highest = std::max(highest, at(s).height - (s == step + 1 ? 1.0 : 0.0));
    return at(step).height - highest;
}

std::vector<RimPoint> RimTracer::trace(const Points& guess) const {
    std::vector<std::vector<double>> cost(rays_, std::vector<double>(kSteps, 0)), clear = cost;
    std::vector<std::vector<int>> from(rays_, std::vector<int>(kSteps, 0));
    for (std::size_t ray = 0; ray < rays_; ++ray) {
        for (int s = 0; s < kSteps; ++s) {
            const auto at = static_cast<std::size_t>(s);
            clear[ray][at] = std::clamp((fall(ray, s) - kLeastFallMm) / (kFallMm - kLeastFallMm), 0.0, 1.0);
            double best = 0;
            if (ray > 0) {
                best = 1e18;
                for (int b = std::max(0, s - 6); b <= std::min(kSteps - 1, s + 6); ++b) {
                    const double c =
                        cost[ray - 1][static_cast<std::size_t>(b)] + kRimBend * kRimStepMm * std::abs(s - b);
                    if (c < best) best = c, from[ray][at] = b;
                }
            }
            cost[ray][at] = best + (1 - clear[ray][at]) + kRimFromGuess * kRimStepMm * std::abs(s - kSteps / 2);
        }
    }
    std::vector<RimPoint> out(rays_);
    int s = static_cast<int>(std::min_element(cost.back().begin(), cost.back().end()) - cost.back().begin());
    const int in = static_cast<int>(std::lround(kInFromEdgeMm / kRimStepMm));
    for (std::size_t ray = rays_; ray-- > 0; s = from[ray][static_cast<std::size_t>(s)]) {
        out[ray].clear = clear[ray][static_cast<std::size_t>(s)];
        const Seen& inside = seen_[ray][static_cast<std::size_t>(std::max(0, s - in))];
        const Seen& edge = seen_[ray][static_cast<std::size_t>(s)];
        out[ray].place = inside.there && inside.height > edge.height - 2 ? inside.place
                         : edge.there                                    ? edge.place
                                                                         : guess[ray];
    }
    return out;
}

}  // namespace

std::vector<RimPoint> trace_rim(const SourceSurface& surface, const RimView& view, const Points& guess) {
    if (guess.size() < 3 || surface.triangles.empty()) return {};
    return RimTracer(surface, view, guess).trace(guess);
}

}  // namespace veld
