#include "core/skin/shine.h"

#include <algorithm>
#include <cmath>

#include "core/linalg/spd_solver.h"
#include "core/linalg/statistics.h"
#include "core/mesh/topology.h"
#include "core/skin/at_corners.h"
#include "core/skin/log_colour.h"

namespace veld {
namespace {

constexpr double kStiff = 150;  // of the smooth surface: edges' say against a vertex's own
// Of a logarithm, than the skin around: the light of it may have been taken for light on the skin.
constexpr double kLeastLighter = -0.04;
// They are not as the skin around them, nor tell what that is like.
constexpr const char* kOtherSkin[] = {"lips",     "lid_l",       "lid_r",         "socket_l",
                                      "socket_r", "mouth_inner", "nostril_inside"};
constexpr int kSkinRounds = 8;
constexpr double kFarWhite = 3;       // standard deviations of the white that skin has by chance
constexpr double kLeastWhite = 0.02;  // linear light: less is no highlight
constexpr double kHueShare = 0.12;    // white, of the skin's lightness, that leaves nothing of a place's hue
constexpr double kGlint = 0.2;        // a place may be that much lighter than its skin
constexpr int kShineGrown = 2;        // edges
constexpr std::size_t kLeastShining = 4;

// Skin times `own` plus `white`, nearest to a colour.
struct Parted {
    double own = 1, white = 0;
};
Parted part(const Vec3& colour, const Vec3& skin) {
    const double a = skin.squaredNorm(), b = skin.sum(), det = 3 * a - b * b;
    if (det < 1e-3 * a) return {};  // grey skin: white and lightness are the same
    const double x = skin.dot(colour), y = colour.sum();
    return {(3 * x - b * y) / det, (a * y - b * x) / det};
}

// What a mesh of springs does that holds each vertex by its weight.
Result<Points> held_springs(const Adjacency& ways, const std::vector<double>& weight, const Points& values) {
    const auto count = static_cast<Index>(values.size());
    std::vector<std::pair<Index, Index>> pairs;
    for (Index v = 0; v < count; ++v) {
        for (const Index* w = ways.begin(v); w != ways.end(v); ++w) {
            if (*w > v) pairs.emplace_back(v, *w);
        }
    }
    SpdSolver solver(count, pairs);
    Points rhs(count);
    for (Index v = 0; v < count; ++v) {
        solver.values()[solver.slot(v, v)] +=
            weight[v] + 1e-6 + kStiff * static_cast<double>(ways.end(v) - ways.begin(v)) / 6;
        rhs[v] = weight[v] * values[v];
    }
    for (const auto& [a, b] : pairs) solver.values()[solver.slot(a, b)] -= kStiff / 6;
    if (auto ok = solver.factor(); !ok) return ok.error();
    return solver.solve(rhs);
}

// Single vertices shine by chance.
void drop_single(const Adjacency& ways, std::vector<std::uint8_t>& is) {
    std::vector<std::uint8_t> done(is.size(), 0);
    for (Index from = 0; from < is.size(); ++from) {
        if (done[from] || !is[from]) continue;
        std::vector<Index> together{from};
        done[from] = 1;
        for (std::size_t i = 0; i < together.size(); ++i) {
            for (const Index* w = ways.begin(together[i]); w != ways.end(together[i]); ++w) {
                if (is[*w] && !done[*w]) done[*w] = 1, together.push_back(*w);
            }
        }
        if (together.size() >= kLeastShining) continue;
        for (const Index v : together) is[v] = 0;
    }
}

}  // namespace

Result<std::optional<Shine>> Shine::find(const BakeSurface& base, const std::vector<std::optional<Vec3>>& logs,
                                         const Points& light) {
    const auto count = static_cast<Index>(logs.size());
    const Adjacency ways = vertex_neighbours(base.triangles, count);
    const auto lit = [&](Index v) { return light.empty() ? Vec3(Vec3::Zero()) : light[v]; };
    std::vector<bool> own_colour;
    for (const std::string& region : base.region_names)
        own_colour.push_back(std::find(std::begin(kOtherSkin), std::end(kOtherSkin), region) != std::end(kOtherSkin));
    Points unlit(count, Vec3::Zero());
    std::vector<double> weight(count, 0);
    for (Index v = 0; v < count; ++v) {
        if (!logs[v] || own_colour[base.region[v]]) continue;
        unlit[v] = *logs[v] - lit(v), weight[v] = 1;
    }
    std::vector<double> white(count, 0), own(count, 1);
    Points skin(count);
    double scatter = 0;
    for (int round = 0; round < kSkinRounds; ++round) {
        auto smooth = held_springs(ways, weight, unlit);
        if (!smooth) return smooth.error();
        std::vector<double> off;
        for (Index v = 0; v < count; ++v) {
            if (!logs[v]) continue;
            skin[v] = colour_of_log((*smooth)[v] + lit(v)).cwiseMax(0);
            const Parted parted = part(colour_of_log(*logs[v]), skin[v]);
            white[v] = parted.white, own[v] = parted.own;
            off.push_back(std::abs(parted.white));
        }
        scatter = std::max(1.4826 * median(std::move(off)), kLeastWhite / kFarWhite);
        for (Index v = 0; v < count; ++v) {
            if (!logs[v] || own_colour[base.region[v]]) continue;
            const double too_light = (unlit[v] - (*smooth)[v]).mean();
            weight[v] =
                white[v] > 0 && too_light > kLeastLighter ? geman_mcclure(white[v] / scatter, kFarWhite / 2) : 1;
        }
    }
    Shine out(base);
    std::vector<std::uint8_t> shining(count, 0);
    for (Index v = 0; v < count; ++v) {
        if (!logs[v]) continue;
        const double lighter = std::log(colour_of_log(*logs[v]).mean() / std::max(kDark, skin[v].mean()));
        shining[v] = !own_colour[base.region[v]] && white[v] > kFarWhite * scatter && lighter > kLeastLighter;
    }
    drop_single(ways, shining);
    double seen = 0;
    for (Index v = 0; v < count; ++v) out.share_ += shining[v], seen += logs[v].has_value();
    if (out.share_ == 0) return std::optional<Shine>{};
    out.share_ /= seen;
    out.shines_.assign(shining.begin(), shining.end());
    for (int round = 0; round < kShineGrown; ++round) {
        const std::vector<float> before = out.shines_;
        for (Index v = 0; v < count; ++v) {
            for (const Index* w = ways.begin(v); w != ways.end(v); ++w)
                out.shines_[v] = std::max(out.shines_[v], before[*w] * (1 - (round + 1.0f) / (kShineGrown + 1)));
        }
    }
    out.white_.assign(count, 0), out.hue_.assign(count, 0);
    for (Index v = 0; v < count; ++v) {
        if (!logs[v] || out.shines_[v] <= 0) continue;
        const double more = std::max(0.0, colour_of_log(*logs[v]).mean() - skin[v].mean());
        out.white_[v] = out.shines_[v] * static_cast<float>(std::clamp(white[v], 0.0, more));
        const double all = kHueShare * std::max(kDark, skin[v].mean());
        out.hue_[v] = out.shines_[v] * static_cast<float>(std::clamp(white[v] / all, 0.0, 1.0));
    }
    out.skin_ = std::move(skin);
    for (Index v = 0; v < count; ++v) {
        if (!logs[v]) out.skin_[v].setConstant(1);
    }
    return std::optional<Shine>(std::move(out));
}

Vec3 Shine::without(const Vec3& colour, Index t, const Vec3& shares, double amount) const {
    const Triangle& c = base_->triangles[t];
    const double shines = between_corners(shines_, c, shares);
    if (shines <= 0) return colour;
    const Vec3 skin = between_corners(skin_, c, shares);
    double white = between_corners(white_, c, shares), hue = between_corners(hue_, c, shares);
    // drops of light on single pores
    if (const double left = colour.mean() - white - (1 + kGlint) * skin.mean(); left > 0) {
        white += shines * left;
        hue = std::max(hue, shines * std::min(1.0, left / (kHueShare * skin.mean())));
    }
    // how light it is without the white; its hue the skin's own the more of it was white, since lamps are not white
    // and channels burn out
    const Vec3 out =
        (1 - hue) * (colour - Vec3::Constant(white)) + hue * skin * ((colour.mean() - white) / skin.mean());
    return (1 - amount) * colour + amount * out.cwiseMax((0.4 * skin).cwiseMin(colour));
}

}  // namespace veld
