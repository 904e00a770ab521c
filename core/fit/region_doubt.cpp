#include "core/fit/region_doubt.h"

#include <cmath>

#include "core/kit/kit_surface.h"
#include "core/landmark/landmarks.h"
#include "core/linalg/statistics.h"
#include "core/mesh/polyline.h"

namespace veld {
namespace {

constexpr const char* kLookedAt[] = {"face", "lid_l", "lid_r", "lips", "ear_l", "ear_r", "skull", "neck"};
constexpr double kSeenOpen = 0.4;          // openness from which a scan shows a place
constexpr double kLeastFade = 0.99;        // below it the head gives way to the body, which is not looked at
constexpr double kMarkNearMm = 5;          // a mark this near a region speaks for it
constexpr double kMostDeviations = 6;      // a vertex says no more than this
constexpr double kLeastDeviationMm = 0.6;  // nobody is known better than this
constexpr std::size_t kLeastVertices = 12;
constexpr double kMostlyGuessed = 0.5;
constexpr double kMostCuts = 20;

double area_of(const Triangle& t, const Points& x) {
    return 0.5 * (x[t[1]] - x[t[0]]).cross(x[t[2]] - x[t[0]]).norm();
}

class Signs {
 public:
    explicit Signs(const SignsInput& input)
        : in_(input), surface_(surface_of(input.problem)), marks_(marks()), inside_(input.shape.size(), 0) {
        const std::vector<double> fade = head_fade(in_.kit, in_.fit.settings.neck_band_mm);
        area_.assign(in_.shape.size(), 0);
        for (const Triangle& t : surface_->triangles) {
            for (const Index v : t) area_[v] += area_of(t, in_.kit.mesh.positions) / 3;
        }
        for (std::size_t v = 0; v < area_.size(); ++v) {
            if (fade[v] < kLeastFade || in_.open[v] < kSeenOpen || !in_.problem.active[v]) area_[v] = 0;
        }
        if (in_.fit.not_skin && in_.problem.source) find_strange_matches();
    }

    std::optional<RegionSigns> of(const std::string& region) {
        VertexIndices shown;
        for (const Index v : in_.kit.region(region)) {
            if (area_[v] > 0) shown.push_back(v);
        }
        if (shown.size() < kLeastVertices) return {};
        RegionSigns out;
        std::fill(inside_.begin(), inside_.end(), 0);
        for (const Index v : shown) inside_[v] = 1;
        add_matches(shown, out);
        add_unlikely(shown, out);
        add_marks(shown, out);
        add_triangles(out);
        return out;
    }

 private:
    struct Mark {
        Vec3 base;
        double off = 0, apart = 0;
    };

    // Points where they are on the base, how far off they say they are and how far from the fit; curves place by
    // place.
    std::vector<Mark> marks() const {
        std::vector<Mark> out;
        const auto expected = [&](const std::string& name) {
            const Trust trust = in_.fit.landmarks.trust_of(name);
            return kept_by_hand(trust) ? 0 : trust.expected_mm;
        };
        for (const PointPull& p : in_.problem.points)
            out.push_back(
                {p.place.at(in_.kit.mesh.positions), expected(p.name), (p.place.at(in_.shape) - p.target).norm()});
        for (const CurvePull& c : in_.problem.curves) {
            for (const SurfacePoint& place : c.places)
                out.push_back({place.at(in_.kit.mesh.positions), expected(c.name),
                               (closest_on_polyline(place.at(in_.shape), c.target) - place.at(in_.shape)).norm()});
        }
        return out;
    }

    void find_strange_matches() {
        strange_.assign(in_.shape.size(), 0);
        const SourceSurface& source = *in_.problem.source;
        for (std::size_t v = 0; v < strange_.size(); ++v) {
            if (area_[v] <= 0 || in_.matches[v].weight <= 0) continue;
            const SurfaceHit hit = source.closest(in_.matches[v].position, 1, nullptr);
            if (hit) strange_[v] = (*in_.fit.not_skin)[source.triangles[hit.triangle][0]];
        }
    }

    void add_matches(const VertexIndices& shown, RegionSigns& out) const {
        double all = 0, matched = 0, strange = 0;
        std::vector<double> distances;
        for (const Index v : shown) {
            all += area_[v];
            if (in_.matches[v].weight <= 0) continue;
            matched += area_[v], distances.push_back(in_.matches[v].distance);
            if (!strange_.empty() && strange_[v]) strange += area_[v];
        }
        out.guessed = 1 - matched / all;
        if (matched > 0) out.not_skin = strange / matched, out.surface = quantile(distances, 0.95);
    }

    void add_unlikely(const VertexIndices& shown, RegionSigns& out) const {
        if (!in_.likely) return;
        double sum = 0, all = 0;
        for (const Index v : shown) {
            const double deviation = std::max(kLeastDeviationMm, in_.likely->sure[v]);
            const double off = (in_.shape[v] - in_.likely->positions[v]).norm() / (std::sqrt(3.0) * deviation);
            sum += area_[v] * std::pow(std::min(off, kMostDeviations), 2), all += area_[v];
        }
        out.unlikely = std::sqrt(sum / all);
    }

    void add_marks(const VertexIndices& shown, RegionSigns& out) const {
        std::vector<double> off, apart;
        for (const Mark& m : marks_) {
            const bool near = std::any_of(shown.begin(), shown.end(), [&](Index v) {
                return (in_.kit.mesh.positions[v] - m.base).squaredNorm() < kMarkNearMm * kMarkNearMm;
            });
            if (near) off.push_back(m.off), apart.push_back(m.apart);
        }
        if (!off.empty()) out.marks = median(off), out.apart = median(apart);
    }

    void add_triangles(RegionSigns& out) const {
        std::vector<double> ratio;
        const auto within = [&](const Triangle& t) { return inside_[t[0]] && inside_[t[1]] && inside_[t[2]]; };
        for (const Triangle& t : surface_->triangles) {
            const double base = area_of(t, in_.kit.mesh.positions);
            if (within(t) && base > 0) ratio.push_back(std::log2(std::max(area_of(t, in_.shape) / base, 1e-3)));
        }
        if (!ratio.empty()) {
            const double middle = median(ratio);
            for (double& r : ratio) r = std::abs(r - middle);
            out.bent = quantile(ratio, 0.95);
        }
        for (const Index t : in_.faulty) out.cuts += within(surface_->triangles[t]);
    }

    const SignsInput& in_;
    const std::shared_ptr<const ProblemSurface> surface_;
    const std::vector<Mark> marks_;
    std::vector<double> area_;  // per vertex of the base, of what is looked at; 0 elsewhere
    VertexMask inside_, strange_;
};

}  // namespace

std::map<std::string, RegionSigns> region_signs(const SignsInput& input) {
    std::map<std::string, RegionSigns> out;
    if (input.fit.settings.part == FitPart::Body || input.matches.empty()) return out;
    Signs signs(input);
    for (const char* region : kLookedAt) {
        if (const auto found = signs.of(region)) out[region] = *found;
    }
    return out;
}

bool is_guessed(const RegionSigns& signs) { return signs.guessed > kMostlyGuessed; }

namespace {

// Per kind of region: what each sign adds to the logarithm of the odds. Signs are those of features().
constexpr std::size_t kSigns = 8;
struct Weights {
    double start;
    std::array<double, kSigns> sign;
};
// Fitted on heads 1 to 40 of foreign-standin; cuts, which are hardly left there, as when there were some.
constexpr Weights kFace{-8.27, {5.06, 5.20, 0.00, 0.20, 2.56, 3.40, 1.33, 1.83}};
constexpr Weights kLids{-10.30, {0.77, 5.62, 0.00, 2.12, 0.00, 0.45, 0.00, 2.12}};
constexpr Weights kLips{-7.45, {1.52, 2.36, 3.81, 0.00, 3.33, 3.53, 0.19, 0.00}};
constexpr Weights kEars{-7.98, {1.05, 0.30, 0.00, 1.60, 2.27, 2.22, 0.00, 1.12}};
constexpr Weights kSkull{-8.27, {0.30, 7.30, 0.00, 0.27, 3.40, 0.00, 0.00, 0.00}};
constexpr Weights kNeck{-9.40, {4.12, 1.80, 0.00, 0.84, 2.44, 0.00, 0.00, 1.52}};

const Weights& weights_of(const std::string& region) {
    if (region.starts_with("lid")) return kLids;
    if (region.starts_with("ear")) return kEars;
    return region == "lips" ? kLips : region == "skull" ? kSkull : region == "neck" ? kNeck : kFace;
}

std::array<double, kSigns> features(const RegionSigns& s) {
    return {s.guessed,           std::log1p(s.unlikely), s.not_skin, std::log1p(s.marks),
            std::log1p(s.apart), std::log1p(s.surface),  s.bent,     std::log1p(std::min(s.cuts, kMostCuts))};
}

constexpr DoubtReason kReasons[kSigns] = {DoubtReason::Guessed, DoubtReason::Unlikely, DoubtReason::NotSkin,
                                          DoubtReason::Marks,   DoubtReason::Marks,    DoubtReason::Folds,
                                          DoubtReason::Folds,   DoubtReason::Folds};
// What a good fit has of each, to which a reason is held.
constexpr RegionSigns kUsual{0.03, 0.8, 0, 3.3, 0.3, 0.6, 0.5, 0};

}  // namespace

double looks_wrong(const std::string& region, const RegionSigns& signs) {
    const Weights& w = weights_of(region);
    double odds = w.start;
    const auto f = features(signs);
    for (std::size_t k = 0; k < kSigns; ++k) odds += w.sign[k] * f[k];
    // what is no skin is wrong by itself
    return std::max(signs.not_skin, 1 / (1 + std::exp(-odds)));
}

RegionDoubt region_doubt(const std::string& region, const RegionSigns& signs) {
    RegionDoubt out{signs, looks_wrong(region, signs), DoubtReason::None};
    if (is_guessed(signs))
        out.why = DoubtReason::Guessed;
    else if (out.wrong >= kLooksWrong) {
        const auto is = features(signs), usual = features(kUsual);
        double most = 0;
        for (std::size_t k = 0; k < kSigns; ++k) {
            const double adds = weights_of(region).sign[k] * (is[k] - usual[k]);
            if (adds > most) most = adds, out.why = kReasons[k];
        }
        if (signs.not_skin >= kLooksWrong) out.why = DoubtReason::NotSkin;
    }
    return out;
}

}  // namespace veld
