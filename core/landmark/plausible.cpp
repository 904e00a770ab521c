#include "core/landmark/plausible.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

#include "core/linalg/fit_similarity.h"
#include "core/linalg/smooth_map.h"
#include "core/linalg/statistics.h"

namespace veld {
namespace {

constexpr std::size_t kFewest = 5;
constexpr double kSmoothMm = 6;
constexpr double kTimesTheRest = 3;

struct Marked {
    std::string name;
    Vec3 base = Vec3::Zero(), there = Vec3::Zero();  // there: in the base's frame
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

// How far each point lies off; 0 for those that are gone.
std::vector<double> all_off(const std::vector<Marked>& marked, const std::vector<std::size_t>& gone) {
    std::vector<double> out(marked.size(), 0);
    tbb::parallel_for(std::size_t{0}, marked.size(), [&](std::size_t i) {
        if (std::find(gone.begin(), gone.end(), i) == gone.end()) out[i] = off(marked, i, gone);
    });
    return out;
}

// People differ more in some places than in others: there a point may lie twice as far out. Limbs and neck
// bend, so that only a head's points can be judged by the kit's shape.
bool judged_by_shape(const std::string& name) { return in_point_set(name, PointSet::Head) && name != "cervicale"; }
double leeway(const std::string& name) {
    const SchemePoint* p = landmark_scheme().point(name);
    return p && (p->region == "neck" || p->region == "skull" || p->region == "jaw" || p->region == "ear") ? 2 : 1;
}

// Left and right of one pair, where the pose does not matter: exchanged they lie far nearer to the base's.
void find_exchanged_limbs(const std::vector<Marked>& marked, std::vector<Suspicion>& out) {
    Points from, to;
    for (const Marked& m : marked) from.push_back(m.there), to.push_back(m.base);
    SimilarityOptions loose;
    loose.outlier_mm = 200;
    const auto over = fit_similarity(from, to, loose);
    if (!over) return;
    for (const Marked& a : marked) {
        if (in_point_set(a.name, PointSet::Head) || !a.name.ends_with("_l")) continue;
        const auto b =
            std::find_if(marked.begin(), marked.end(), [&](const Marked& m) { return m.name == other_side(a.name); });
        if (b == marked.end()) continue;
        const Vec3 pa = (*over)(a.there), pb = (*over)(b->there);
        const double now = (pa - a.base).norm() + (pb - b->base).norm(),
                     then = (pa - b->base).norm() + (pb - a.base).norm();
        if (now > 60 && then < 0.6 * now)
            out.push_back({SuspicionKind::Exchanged, a.name, b->name, 0.5 * now, Vec3::Zero()});
    }
}

// The partner whose place each of the two would fit: kNone when there is none.
std::size_t exchanged_with(const std::vector<Marked>& marked, std::size_t a, double off_a) {
    for (std::size_t b = 0; b < marked.size(); ++b) {
        if (b == a) continue;
        if ((marked[a].there - marked[b].base).norm() > 0.5 * off_a)
            continue;  // quick: a does not lie where b belongs
        const Vec3 place_a = expected(marked, {a, b}, marked[a].base),
                   place_b = expected(marked, {a, b}, marked[b].base);
        const double now = (marked[a].there - place_a).norm() + (marked[b].there - place_b).norm();
        const double then = (marked[a].there - place_b).norm() + (marked[b].there - place_a).norm();
        if (then < 0.4 * now) return b;
    }
    return marked.size();
}

void find_strays(std::vector<Marked> head, double least_mm, std::size_t most, std::vector<Suspicion>& out) {
    const auto placed = lay_over(head);
    if (!placed) return;
    for (Marked& m : head) m.there = (*placed)(m.there);
    const Similarity back = placed->inverse();
    // the worst is taken out before the next is judged: one stray point makes its neighbours look bad
    std::vector<std::size_t> gone;
    while (gone.size() < head.size() / 3 && head.size() - gone.size() > kFewest && out.size() < most) {
        const std::vector<double> now = all_off(head, gone);
        std::vector<double> judged = now;
        for (std::size_t i = 0; i < judged.size(); ++i) judged[i] /= leeway(head[i].name);
        const auto worst = static_cast<std::size_t>(std::max_element(judged.begin(), judged.end()) - judged.begin());
        if (judged[worst] < std::max(least_mm, kTimesTheRest * median(now))) break;
        const std::size_t partner = exchanged_with(head, worst, now[worst]);
        gone.push_back(worst);
        if (partner < head.size()) {
            gone.push_back(partner);
            out.push_back({SuspicionKind::Exchanged, head[worst].name, head[partner].name, now[worst], Vec3::Zero()});
        } else {
            out.push_back({SuspicionKind::FarOff,
                           head[worst].name,
                           {},
                           now[worst],
                           back(expected(head, gone, head[worst].base))});
        }
    }
}

}  // namespace

std::map<std::string, double> off_shape(const std::map<std::string, Vec3>& base, const LandmarkSet& set) {
    std::map<std::string, double> out;
    std::vector<Marked> marked = common(base, set);
    const auto placed = marked.size() < kFewest ? Result<Similarity>(Error{}) : lay_over(marked);
    if (!placed) return out;
    for (Marked& m : marked) m.there = (*placed)(m.there);
    const std::vector<double> each = all_off(marked, {});
    for (std::size_t i = 0; i < marked.size(); ++i) out[marked[i].name] = each[i];
    return out;
}

std::vector<Suspicion> find_suspicions(const std::map<std::string, Vec3>& base, const LandmarkSet& set,
                                       double least_mm, std::size_t most) {
    std::vector<Suspicion> out;
    std::vector<Marked> marked = common(base, set);
    if (marked.size() < kFewest) return out;
    const auto placed = lay_over(marked);
    if (!placed) return out;
    const std::vector<Marked> swapped = common(base, swap_sides(set));
    int sided = 0;
    for (const Marked& m : marked) sided += !other_side(m.name).empty();
    if (const auto other = lay_over(swapped); sided >= 4 && swapped.size() == marked.size() && other &&
                                              mean_off(swapped, *other) < 0.5 * mean_off(marked, *placed)) {
        out.push_back({SuspicionKind::SidesSwapped, {}, {}, mean_off(marked, *placed), Vec3::Zero()});
        return out;  // swap first; the rest is judged then
    }
    find_exchanged_limbs(marked, out);
    std::erase_if(marked, [](const Marked& m) { return !judged_by_shape(m.name); });
    if (marked.size() >= kFewest) find_strays(std::move(marked), least_mm, most, out);
    return out;
}

LandmarkSet repaired(const LandmarkSet& set, const Suspicion& finding) {
    if (finding.kind == SuspicionKind::SidesSwapped) return swap_sides(set);
    LandmarkSet out = set;
    if (finding.kind == SuspicionKind::Exchanged) {
        std::swap(out.points[finding.a], out.points[finding.b]);
        std::swap(out.trust[finding.a], out.trust[finding.b]);
    } else {
        out.points[finding.a] = finding.better;
        Trust& t = out.trust[finding.a];
        t = {}, t.origin = Origin::Found, t.expected_mm = 4;  // by the others' word only: to be looked at
    }
    return out;
}

}  // namespace veld
