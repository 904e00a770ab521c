#include "core/detect/doubt.h"

#include <tbb/parallel_for.h>

#include <cmath>

#include "core/fit/fit.h"
#include "core/kit/kit_surface.h"
#include "core/landmark/plausible.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr double kBeforeThePupil = 0.93, kProudMm = 0.9;  // a lid is thicker than this
constexpr double kNearMm = 14;                            // network points this near speak for a landmark

// Two numbers that light and shadow leave alone.
std::array<double, 2> chromaticity(const Vec3& rgb) {
    const Vec3 c = rgb.cwiseMax(0.02);
    return {std::log(c.x() / c.y()), std::log(c.z() / c.y())};
}

}  // namespace

Doubts::Doubts(const DoubtInput& known) : known_(known) {
    for (const SeenView& view : known_.views) {
        const std::vector<SurfacePair> pairs = pairs_of_view(known_.reference, view);
        by_view_.emplace_back(pairs.size());
        tbb::parallel_for(std::size_t{0}, pairs.size(), [&, &moved = by_view_.back()](std::size_t i) {
            moved[i] = {pairs[i].base, pairs[i].scan - known_.map(pairs[i].base)};
        });
    }
    if (known_.part == FitPart::Head) fade_ = head_fade(known_.kit, FitSettings{}.neck_band_mm);
    LandmarkSet read;
    std::map<std::string, Vec3> base;
    for (const auto& [name, place] : known_.base_points) {
        if (!places_part(name, known_.part)) continue;
        read.points[name] = place.at(known_.fitted);
        base[name] = place.at(known_.kit.mesh.positions);
    }
    for (const bool left : {false, true}) closed_[left] = looks_closed(left);
    off_ = off_shape(base, read);
    if (!known_.look.coloured) return;
    std::vector<double> tone[2];
    for (const SurfacePair& p : known_.pairs) {
        const SurfaceHit hit = known_.look.surface.closest(p.scan, 2, nullptr);
        if (!hit) continue;
        const auto c = chromaticity(colour_at(known_.look, hit));
        for (int k = 0; k < 2; ++k) tone[k].push_back(c[static_cast<std::size_t>(k)]);
    }
    for (std::size_t k = 0; k < 2 && !tone[k].empty(); ++k) {
        skin_[k] = median(tone[k]);
        for (double& t : tone[k]) t = std::abs(t - skin_[k]);
        skin_width_[k] = std::max(0.05, 4 * median(tone[k]));
    }
}

// A lid is skin over the eyeball: where the eye is closed, the surface before the pupil stands out from the
// ball that the fit's lids hold. (The network cannot tell on plain clay.)
bool Doubts::looks_closed(bool left) const {
    for (const KitEye& eye : known_.kit.eyes) {
        const KitPart* part = known_.kit.part(eye.part);
        if (!part || eye.part.ends_with("_l") != left) continue;
        Vec3 centre = Vec3::Zero(), base = Vec3::Zero();
        for (const Index v : part->vertices) {
            centre += known_.fitted[v] / static_cast<double>(part->vertices.size());
            base += known_.kit.mesh.positions[v] / static_cast<double>(part->vertices.size());
        }
        std::vector<double> proud;
        for (const Index v : part->vertices) {
            // the middle of what the lids leave free
            if ((known_.kit.mesh.positions[v] - base).normalized().z() < kBeforeThePupil) continue;
            const Vec3 out = known_.fitted[v] - centre;
            const SurfaceHit hit = known_.look.surface.query->first_hit(centre + 40 * out.normalized(), -out);
            if (hit) proud.push_back((hit.position - centre).norm() - out.norm());
        }
        return proud.size() > 5 && median(proud) > kProudMm;
    }
    return false;
}

double Doubts::view_spread(const Vec3& base) const {
    Points moved;  // per view
    for (const std::vector<Moved>& pairs : by_view_) {
        Vec3 sum = Vec3::Zero();
        double total = 0;
        for (const Moved& p : pairs) {
            const double r2 = (p.base - base).squaredNorm();
            if (r2 > 9 * kNearMm * kNearMm) continue;
            const double w = std::exp(-0.5 * r2 / (kNearMm * kNearMm / 4));
            sum += w * p.by, total += w;
        }
        if (total > 0.3) moved.push_back(sum / total);
    }
    const auto middle = middle_of(moved);
    if (!middle || moved.size() < 2) return 0;
    std::vector<double> off;  // the usual one, not the mean: a single view that looked past a nose says little
    for (const Vec3& m : moved) off.push_back((m - middle->place).norm());
    return median(off);
}

// Median over a patch: single speckles and hairs do not count.
double Doubts::unlike_skin(const Vec3& on_source) const {
    if (!known_.look.coloured) return 0;
    std::vector<double> unlike;
    for (int i = 0; i < 9; ++i) {
        const Vec3 beside = on_source + 3.0 * Vec3(i % 3 - 1, i / 3 - 1, 0);
        const SurfaceHit hit = known_.look.surface.closest(beside, 6, nullptr);
        if (!hit) continue;
        const auto c = chromaticity(colour_at(known_.look, hit));
        unlike.push_back(
            std::max(std::abs(c[0] - skin_[0]) / skin_width_[0], std::abs(c[1] - skin_[1]) / skin_width_[1]));
    }
    return unlike.empty() ? 0 : median(unlike);
}

Evidence Doubts::evidence(const std::string& name, const SurfacePoint& place, const SurfaceHit& on_source) const {
    Evidence out;
    const Vec3 base = place.at(known_.kit.mesh.positions), fitted = place.at(known_.fitted);
    out.nearest = 1e9;
    for (const SurfacePair& p : known_.pairs) out.nearest = std::min(out.nearest, (p.base - base).norm());
    if (out.nearest < kNearMm) {
        out.spread = view_spread(base);
        out.disagree = (known_.map(base) - fitted).norm();
    }
    out.surface = on_source.distance;
    int near = 0, missing = 0;
    for (Index v = 0; v < known_.fitted.size() && v < known_.distances.size(); ++v) {
        if ((known_.kit.mesh.positions[v] - base).squaredNorm() > 36) continue;
        ++near;
        missing += std::isnan(known_.distances[v]);
    }
    out.unmatched = near ? static_cast<double>(missing) / near : 1;
    if (const auto at = off_.find(name); at != off_.end()) out.bent = at->second;
    const SchemePoint* scheme = landmark_scheme().point(name);
    const SchemeCurve* curve = landmark_scheme().curve(name);
    const std::string region = scheme ? scheme->region : curve ? curve->region : std::string();
    out.usual = usual_error(region), out.strange_times = strange_error(region);
    const bool lid = name.starts_with("palpebrale") || name.starts_with("pupil") || name.starts_with("upper_lid") ||
                     name.starts_with("lower_lid");
    out.closed = lid && closed_[name.ends_with("_l")];
    const bool bare = scheme && (scheme->region == "skull" || scheme->region == "ear" || scheme->region == "neck" ||
                                 scheme->region == "torso" || name == "frontotemporale_l" ||
                                 name == "frontotemporale_r" || name == "trichion");
    if (bare) out.colour = unlike_skin(on_source.position);
    for (std::size_t k = 0; k < 3 && !fade_.empty(); ++k)
        out.fade += place.weights[k] * (1 - fade_[place.vertices[k]]);
    return out;
}

Trust Doubts::of_curve(const std::string& name, const std::vector<SurfacePoint>& curve) const {
    Trust t;
    t.origin = Origin::Found;
    double share = 0;
    for (const SurfacePoint& place : curve) {
        const SurfaceHit hit = known_.look.surface.closest(place.at(known_.fitted), 20, nullptr);
        if (!hit) continue;
        const Trust at = trust_from(evidence(name, place, hit));
        t.expected_mm += at.expected_mm, t.spread_mm += at.spread_mm;
        ++share;
    }
    if (share > 0) t.expected_mm /= share, t.spread_mm /= share;
    return t;
}

namespace {

struct RegionErrors {
    double usual, strange;
};
// Where the head as a whole is like the base a corner or an edge is found to a fraction of a millimetre, and a place
// on an even surface can slide; what the body has was measured on one figure only.
const RegionErrors& region_errors(const std::string& region) {
    static const std::map<std::string, RegionErrors> fitted = {
        {"eye", {0.2, 2.4}},   {"mouth", {0.24, 2.4}}, {"nose", {0.35, 3.1}}, {"forehead", {0.9, 0.95}},
        {"cheek", {1.9, 2.4}}, {"chin", {1.3, 2.8}},   {"jaw", {2.6, 2.8}},   {"skull", {4.0, 2.4}},
        {"neck", {2.0, 2.0}},  {"ear", {1.2, 0.0}},    {"torso", {8.0, 0.0}}, {"shoulder", {6.0, 0.0}},
        {"arm", {6.0, 0.0}},   {"hand", {4.0, 0.0}},   {"hip", {8.0, 0.0}},   {"leg", {6.0, 0.0}},
        {"foot", {4.0, 0.0}}};
    static const RegionErrors other{2.0, 2.0};
    const auto at = fitted.find(region);
    return at == fitted.end() ? other : at->second;
}

}  // namespace

double usual_error(const std::string& region) { return region_errors(region).usual; }
double strange_error(const std::string& region) { return region_errors(region).strange; }

double expected_error(const Evidence& e) {
    const double missing =
        std::max(0.0, e.unmatched - 0.7) / 0.3;  // of even places: around lids and nostrils much is hidden on any scan
    const double parts[] = {e.usual,
                            0.28 * e.disagree,
                            1.2 * e.surface,
                            (e.usual > 1 ? 2.0 : 0.5) * missing,
                            0.21 * e.spread,
                            0.58 * e.bent,
                            e.colour > 1 ? 2.5 * std::min(e.colour, 3.0) : 0.0,
                            6 * e.fade,
                            6.3 * e.closed,
                            0.4 * e.moved,
                            0.23 * e.gap,
                            e.strange_times * std::max(0.0, e.strange - kUsuallyApartMm)};
    double sum = 0;
    for (double p : parts) sum += p * p;
    return std::sqrt(sum);
}

Trust trust_from(const Evidence& e) {
    Trust t;
    t.origin = Origin::Found;
    t.spread_mm = e.spread;
    t.off_mm = e.bent;
    t.expected_mm = expected_error(e);
    return t;
}

}  // namespace veld
