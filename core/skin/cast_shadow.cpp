#include "core/skin/cast_shadow.h"

#include <algorithm>
#include <cmath>

#include "core/linalg/spd_solver.h"
#include "core/linalg/statistics.h"
#include "core/mesh/surface_distance.h"
#include "core/skin/at_corners.h"
#include "core/skin/heal.h"
#include "core/skin/log_colour.h"

namespace veld {
namespace {

constexpr double kLeastTaken = 0.12;      // of a logarithm: less is no shadow
constexpr double kSkinScatter = 0.25;     // of skin's logarithm
constexpr double kStrange = 0.35;         // the same: so far from both, a colour is no skin of this kind
constexpr double kColourSays = 2.5;       // most that colours say for or against, as the logarithm of odds,
constexpr double kRaysSay = 1.2;          // and what rays say
constexpr double kLightStep = 0.08;       // of lightness between neighbours: walks are rare across it
constexpr double kSeldom = 0.02;          // of a way across a large step
constexpr double kPrior = 0.15;           // what a vertex's own say weighs against a way
constexpr std::size_t kLeastInside = 10;  // vertices of a shadow
constexpr double kLeastBorderMm = 3, kMostBorderMm = 22, kProfileMm = 25;
constexpr int kLabelRounds = 2;

double eased(double from, double to, double x) {
    const double t = std::clamp((x - from) / (to - from), 0.0, 1.0);
    return t * t * (3 - 2 * t);
}
// 0: as light as lit skin; 1: as dark as skin in the shadow
double depth_of(const Vec3& log, const Vec3& lit, const Vec3& takes) {
    return (lit - log).dot(takes) / takes.squaredNorm();
}

}  // namespace

Status CastShadow::label(const ShotColours& shot, const SkinLight& light) {
    const auto count = static_cast<Index>(shot.log.size());
    std::vector<std::pair<Index, Index>> pairs;
    for (Index v = 0; v < count; ++v) {
        for (const Index* w = ways_.begin(v); w != ways_.end(v); ++w) {
            if (*w > v) pairs.emplace_back(v, *w);
        }
    }
    SpdSolver solver(count, pairs);
    std::vector<double>& entries = solver.values();
    for (const auto& [a, b] : pairs) {
        double way = 1;
        if (shot.log[a] && shot.log[b]) {
            const double step = (*shot.log[a] - *shot.log[b]).mean() / kLightStep;
            way = kSeldom + (1 - kSeldom) * std::exp(-step * step);
        }
        entries[solver.slot(a, b)] -= way, entries[solver.slot(a, a)] += way, entries[solver.slot(b, b)] += way;
    }
    Points rhs(count, Vec3::Zero());
    for (Index v = 0; v < count; ++v) {
        entries[solver.slot(v, v)] += 1e-6;
        if (!shot.log[v] || takes_[v].mean() < kLeastTaken) continue;
        const Vec3 off = *shot.log[v] - light.skin() - light.light(base_->normals[v], shot.open[v], 0);
        const double dark = off.squaredNorm(), bright = (off - takes_[v]).squaredNorm();
        // what is neither (a brow) says little
        const double known = std::exp(-std::min(dark, bright) / (2 * kStrange * kStrange));
        const double says =
            known * std::clamp((bright - dark) / (2 * kSkinScatter * kSkinScatter), -kColourSays, kColourSays) +
            (shot.sees_lamp[v] > 0.5f ? -kRaysSay : kRaysSay);
        entries[solver.slot(v, v)] += kPrior, rhs[v][0] = kPrior / (1 + std::exp(-says));
    }
    if (auto ok = solver.factor(); !ok) return ok;
    const Points walked = solver.solve(rhs);
    for (Index v = 0; v < count; ++v)
        inside_[v] = shot.log[v] && takes_[v].mean() >= kLeastTaken && walked[v][0] > 0.5 ? 1.0f : 0.0f;
    return Done{};
}

// Shadows of a few vertices are moles, and lit places of a few vertices in them are highlights.
void CastShadow::drop_small() {
    for (const float kind : {0.0f, 1.0f}) {
        std::vector<std::uint8_t> done(inside_.size(), 0);
        for (Index from = 0; from < inside_.size(); ++from) {
            if (done[from] || inside_[from] != kind) continue;
            std::vector<Index> together{from};
            done[from] = 1;
            for (std::size_t i = 0; i < together.size(); ++i) {
                for (const Index* w = ways_.begin(together[i]); w != ways_.end(together[i]); ++w) {
                    if (!done[*w] && inside_[*w] == kind) done[*w] = 1, together.push_back(*w);
                }
            }
            if (together.size() >= kLeastInside) continue;
            for (const Index v : together) inside_[v] = 1 - kind;
        }
    }
}

// How far off the border lit skin is wholly lit and shadow wholly dark: medians of bins of a mm.
void CastShadow::measure_border(const ShotColours& shot, const SkinLight& light) {
    VertexIndices edge;
    for (Index v = 0; v < inside_.size(); ++v) {
        if (std::any_of(ways_.begin(v), ways_.end(v), [&](Index w) {
                return inside_[w] != inside_[v] && shot.log[v] && shot.log[w] &&
                       std::max(takes_[v].mean(), takes_[w].mean()) >= kLeastTaken;
            }))
            edge.push_back(v);
    }
    const SurfaceDistances far = surface_distances(base_->positions, ways_, edge);
    off_mm_ = far.distance;
    constexpr int kBins = static_cast<int>(kProfileMm);
    std::vector<double> of[2][kBins];
    for (Index v = 0; v < inside_.size(); ++v) {
        const bool in = inside_[v] > 0.5f;
        if (shot.log[v] && takes_[v].mean() >= kLeastTaken && off_mm_[v] < kProfileMm) {
            const Vec3 lit = light.skin() + light.light(base_->normals[v], shot.open[v], 1);
            of[in][static_cast<int>(off_mm_[v])].push_back(depth_of(*shot.log[v], lit, takes_[v]));
        }
        if (in) off_mm_[v] = -off_mm_[v];
    }
    border_mm_ = kLeastBorderMm;
    for (int in = 0; in < 2; ++in) {
        // what is far from the border says what is usual
        std::vector<double> beyond;
        for (int k = 12; k < kBins; ++k) beyond.insert(beyond.end(), of[in][k].begin(), of[in][k].end());
        const double usual = beyond.size() < kLeastInside ? in : median(std::move(beyond));
        for (int k = 0; k < kBins; ++k) {
            if (of[in][k].size() < kLeastInside) continue;
            if (std::abs(median(of[in][k]) - usual) < 0.15) break;
            border_mm_ = std::max(border_mm_, k + 2.0);
        }
    }
    border_mm_ = std::min(border_mm_, kMostBorderMm);
    border_.assign(inside_.size(), 0);
    for (std::size_t v = 0; v < border_.size(); ++v)
        border_[v] = static_cast<float>(1 - eased(border_mm_, 1.5 * border_mm_ + 1, std::abs(off_mm_[v])));
}

// What lit skin around a shadow would be inside it, against what is left there once the shadow is out: each shadow as
// a whole is brought to it. Then the border: what lit skin is there, from both of its sides.
Status CastShadow::level(const ShotColours& shot) {
    const auto count = static_cast<Index>(inside_.size());
    Points smooth(count, Vec3::Zero());
    for (Index v = 0; v < count; ++v) {
        double all = 0;
        const auto add = [&](Index w) {
            if (shot.log[w] && inside_[w] == inside_[v]) smooth[v] += *shot.log[w], all += 1;
        };
        add(v);
        for (const Index* w = ways_.begin(v); w != ways_.end(v); ++w) add(*w);
        if (all > 0) smooth[v] /= all;
    }
    std::vector<std::uint8_t> known(count, 0);
    lit_ = smooth;
    for (Index v = 0; v < count; ++v) known[v] = shot.log[v] && off_mm_[v] > border_mm_;
    if (auto ok = membrane(base_->triangles, known, {{&lit_}}); !ok) return ok;
    std::vector<std::uint8_t> done(count, 0);
    for (Index from = 0; from < count; ++from) {
        if (done[from] || inside_[from] < 0.5f) continue;
        std::vector<Index> shadow{from};
        std::vector<double> steps[3];
        done[from] = 1;
        for (std::size_t i = 0; i < shadow.size(); ++i) {
            const Index v = shadow[i];
            for (const Index* w = ways_.begin(v); w != ways_.end(v); ++w) {
                if (!done[*w] && inside_[*w] > 0.5f) done[*w] = 1, shadow.push_back(*w);
            }
            if (off_mm_[v] > -0.7 * border_mm_ || off_mm_[v] < -border_mm_ - 8) continue;
            const Vec3 step = lit_[v] - smooth[v] - takes_[v];
            for (std::size_t k = 0; k < 3; ++k) steps[k].push_back(step[static_cast<Eigen::Index>(k)]);
        }
        if (steps[0].size() < kLeastInside) continue;
        const Vec3 step(median(steps[0]), median(steps[1]), median(steps[2]));
        for (const Index v : shadow) takes_[v] = (takes_[v] + step).cwiseMax(0);
    }
    for (Index v = 0; v < count; ++v) {
        known[v] = shot.log[v] && std::abs(off_mm_[v]) > border_mm_;
        lit_[v] = smooth[v] + inside_[v] * takes_[v];
    }
    return membrane(base_->triangles, known, {{&lit_}});
}

Result<std::optional<CastShadow>> CastShadow::find(const BakeSurface& base, const ShotColours& shot,
                                                   const Lamp& lamp) {
    const auto count = static_cast<Index>(base.positions.size());
    CastShadow out(base);
    out.ways_ = vertex_neighbours(base.triangles, count);
    out.inside_.resize(count);
    for (Index v = 0; v < count; ++v) out.inside_[v] = 1 - shot.sees_lamp[v];
    SkinLight light;
    for (int round = 0; round < kLabelRounds; ++round) {
        std::vector<LitPlace> places;
        for (Index v = 0; v < count; ++v) {
            if (shot.log[v])
                places.push_back(
                    {colour_of_log(*shot.log[v]), base.normals[v], shot.open[v], shot.say[v], 1 - out.inside_[v]});
        }
        light = SkinLight::of(places, lamp);
        if (!light.known()) return std::optional<CastShadow>{};
        out.takes_.assign(count, Vec3::Zero());
        for (Index v = 0; v < count; ++v)
            out.takes_[v] =
                (light.light(base.normals[v], shot.open[v], 1) - light.light(base.normals[v], shot.open[v], 0))
                    .cwiseMax(0);
        if (auto ok = out.label(shot, light); !ok) return ok.error();
        out.drop_small();
    }
    double inside = 0, seen = 0;
    for (Index v = 0; v < count; ++v) inside += shot.log[v] ? out.inside_[v] : 0, seen += shot.log[v].has_value();
    if (inside < kLeastInside) return std::optional<CastShadow>{};
    out.share_ = inside / seen;
    out.measure_border(shot, light);
    if (auto ok = out.level(shot); !ok) return ok.error();
    out.depth_.assign(count, 0);
    for (Index v = 0; v < count; ++v) {
        if (shot.log[v] && out.takes_[v].mean() > 0.3 * kLeastTaken)
            out.depth_[v] =
                static_cast<float>(std::clamp(depth_of(*shot.log[v], out.lit_[v], out.takes_[v]), 0.0, 1.0));
    }
    return std::optional<CastShadow>(std::move(out));
}

Vec3 CastShadow::without(const Vec3& colour, Index t, const Vec3& shares, double amount) const {
    const Triangle& c = base_->triangles[t];
    double depth = between_corners(inside_, c, shares);
    const double border = between_corners(border_, c, shares);
    if (depth <= 0 && border <= 0) return colour;
    const Vec3 takes = between_corners(takes_, c, shares), log = log_colour(colour);
    if (border > 0 && takes.mean() > 0.3 * kLeastTaken) {
        // a soft border by the vertices, so that grain stays; a sharp one by the place itself
        const double own = depth_of(log, between_corners(lit_, c, shares), takes),
                     around = between_corners(depth_, c, shares);
        const double sharp = eased(0.15, 0.35, std::abs(own - around));
        const double here = (1 - sharp) * around + sharp * eased(0.1, 0.9, own);
        // brows and moles within it are not between lit and unlit skin
        const double strange = (between_corners(lit_, c, shares) - log - own * takes).norm();
        depth += border * (1 - eased(0.12, 0.35, strange)) * (std::min(here, 1.0) - depth);
    }
    return colour_of_log(log + amount * depth * takes).cwiseMax(0).cwiseMin(1);
}

}  // namespace veld
