#include "core/landmark/plausible.h"

#include <algorithm>
#include <cmath>

#include "core/fit/similarity.h"
#include "core/linalg/smooth_map.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr std::size_t kFewest = 5;
constexpr double kSmoothMm = 6;
constexpr double kTimesTheRest = 3;

struct Marked {
    std::string name;
    Vec3 base = Vec3::Zero(), there = Vec3::Zero();   // there: in the base's frame
};

std::vector<Marked> common(const std::map<std::string, Vec3>& base, const LandmarkSet& set) {
    std::vector<Marked> out;
    for (const auto& [name, p] : set.points) {
        if (const auto at = base.find(name); at != base.end()) out.push_back({name, at->second, p});
    }
    return out;
}

Result<Similarity> lay_over(const std::vector<Marked>& marked) {
    Points from, to;
    for (const Marked& m : marked) from.push_back(m.there), to.push_back(m.base);
    return fit_similarity(from, to);
}

double mean_off(const std::vector<Marked>& marked, const Similarity& s) {
    double sum = 0;
    for (const Marked& m : marked) sum += (s(m.there) - m.base).norm();
    return sum / static_cast<double>(marked.size());
}

// Where the points that are not in `without` expect one of the base's places.
Vec3 expected(const std::vector<Marked>& marked, const std::vector<std::size_t>& without, const Vec3& base) {
    Points from, to;
    std::vector<double> weights;
    for (std::size_t i = 0; i < marked.size(); ++i) {
        if (std::find(without.begin(), without.end(), i) != without.end()) continue;
        from.push_back(marked[i].base), to.push_back(marked[i].there);
        // those near know best
        weights.push_back(0.05 + std::exp(-(marked[i].base - base).squaredNorm() / (2 * 60.0 * 60.0)));
    }
    return SmoothMap(from, to, weights, kSmoothMm)(base);
}

double off(const std::vector<Marked>& marked, std::size_t i, std::vector<std::size_t> without) {
    without.push_back(i);
    return (marked[i].there - expected(marked, without, marked[i].base)).norm();
}

// People differ more in some places than in others, and a neck bends: there a point may lie twice as far out.
double leeway(const std::string& name) {
    const SchemePoint* p = landmark_scheme().point(name);
    return p && (p->region == "neck" || p->region == "skull" || p->region == "jaw" || p->region == "ear") ? 2 : 1;
}

// The partner whose place each of the two would fit: kNone when there is none.
std::size_t exchanged_with(const std::vector<Marked>& marked, std::size_t a, double off_a) {
    for (std::size_t b = 0; b < marked.size(); ++b) {
        if (b == a) continue;
        if ((marked[a].there - marked[b].base).norm() > 0.5 * off_a) continue;   // quick: a does not lie where b belongs
        const Vec3 place_a = expected(marked, {a, b}, marked[a].base), place_b = expected(marked, {a, b}, marked[b].base);
        const double now = (marked[a].there - place_a).norm() + (marked[b].there - place_b).norm();
        const double then = (marked[a].there - place_b).norm() + (marked[b].there - place_a).norm();
        if (then < 0.4 * now) return b;
    }
    return marked.size();
}

}  // namespace

Plausibility check_plausible(const std::map<std::string, Vec3>& base, const LandmarkSet& set, double least_mm) {
    Plausibility out;
    std::vector<Marked> marked = common(base, set);
    if (marked.size() < kFewest) return out;
    auto placed = lay_over(marked);
    if (!placed) return out;
    std::vector<Marked> swapped = common(base, swap_sides(set));
    int sided = 0;
    for (const Marked& m : marked) sided += !other_side(m.name).empty();
    if (const auto other = lay_over(swapped); sided >= 4 && swapped.size() == marked.size() && other && mean_off(swapped, *other) < 0.5 * mean_off(marked, *placed)) {
        out.suspicions.push_back({SuspicionKind::SidesSwapped, {}, {}, mean_off(marked, *placed), Vec3::Zero()});
        marked = swapped, placed = other;
    }
    for (Marked& m : marked) m.there = (*placed)(m.there);
    const Similarity back = placed->inverse();
    std::vector<double> offs;
    for (std::size_t i = 0; i < marked.size(); ++i) offs.push_back(off(marked, i, {}));
    for (std::size_t i = 0; i < marked.size(); ++i) out.off_mm[marked[i].name] = offs[i];
    if (!out.suspicions.empty()) return out;   // swap first; the rest is judged then
    // the worst is taken out before the next is judged: one stray point makes its neighbours look bad
    std::vector<std::size_t> gone;
    std::vector<double> now = offs;
    while (gone.size() < marked.size() / 3 && marked.size() - gone.size() > kFewest) {
        std::vector<double> judged = now;
        for (std::size_t i = 0; i < judged.size(); ++i) judged[i] /= leeway(marked[i].name);
        const auto worst = static_cast<std::size_t>(std::max_element(judged.begin(), judged.end()) - judged.begin());
        if (judged[worst] < std::max(least_mm, kTimesTheRest * median(now))) break;
        const std::size_t partner = exchanged_with(marked, worst, now[worst]);
        gone.push_back(worst);
        if (partner < marked.size()) {
            gone.push_back(partner);
            out.suspicions.push_back({SuspicionKind::Exchanged, marked[worst].name, marked[partner].name, now[worst], Vec3::Zero()});
        } else {
            out.suspicions.push_back({SuspicionKind::FarOff, marked[worst].name, {}, now[worst], back(expected(marked, gone, marked[worst].base))});
        }
        for (std::size_t i = 0; i < marked.size(); ++i) now[i] = std::find(gone.begin(), gone.end(), i) != gone.end() ? 0 : off(marked, i, gone);
    }
    return out;
}

LandmarkSet mended(const LandmarkSet& set, const Suspicion& finding) {
    if (finding.kind == SuspicionKind::SidesSwapped) return swap_sides(set);
    LandmarkSet out = set;
    if (finding.kind == SuspicionKind::Exchanged) {
        std::swap(out.points[finding.a], out.points[finding.b]);
        std::swap(out.trust[finding.a], out.trust[finding.b]);
    } else {
        out.points[finding.a] = finding.better;
        Trust& t = out.trust[finding.a];
        t = {}, t.origin = Origin::Found, t.expected_mm = 4;   // by the others' word only: to be looked at
    }
    return out;
}

}  // namespace veld
