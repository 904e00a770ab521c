#include "core/detect/mark_ears.h"

#include <cmath>

namespace veld {
namespace {

// Measured on foreign heads (benchmarks/foreign_accuracy): helmets and heads without ears stay below these.
constexpr double kLikeAnEar = 0.89, kUnlikeFrom = 0.08, kMostFaintMm = 12;
struct ErrorWeights {
    double usual, unlike, each, rival, faint;
};
// no edge runs at the tragus
constexpr ErrorWeights kTragion{0.3, 4.0, 4.2, 17, 0}, kLobe{0.4, 2.2, 2.0, 6, 6}, kRim{0.75, 2.2, 1.5, 6, 34};
constexpr double kStraightMm = 0.3;
constexpr double kEarSeen = 0.40, kEarSeenWithEdge = 0.33, kEarEdge = 0.45;

// The place of the rim that lies farthest that way, and how clean the edge is around it.
void take_extreme(const FoundEar& ear, const Vec3& way, const std::string& name, MarkedEar& out) {
    std::size_t at = 0;
    for (std::size_t i = 1; i < ear.rim.size(); ++i) {
        if (way.dot(ear.rim[i].place - ear.rim[at].place) > 0) at = i;
    }
    double clear = 0, count = 0;
    // an edge that runs straight there has its farthest place by chance: the middle of the stretch is meant
    std::size_t first = at, last = at;
    const auto as_far = [&](std::size_t i) { return way.dot(ear.rim[at].place - ear.rim[i].place) < kStraightMm; };
    while (first > 0 && as_far(first - 1)) --first;
    while (last + 1 < ear.rim.size() && as_far(last + 1)) ++last;
    at = (first + last) / 2;
    for (std::size_t i = at < 2 ? 0 : at - 2; i < std::min(ear.rim.size(), at + 3); ++i)
        clear += ear.rim[i].clear, ++count;
    out.points[name] = ear.rim[at].place;
    out.clear[name] = clear / count;
}

MarkedEar marked_ear(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                     const std::string& side, const SourceSurface& surface, const Progress& progress) {
    MarkedEar out;
    const auto ear = find_ear(kit, base_points, side, surface, progress);
    if (!ear) return out;  // the kit has none to look for
    out.lies = ear->lies, out.covers = ear->covers, out.rival = ear->rival, out.rim_clear = ear->clear;
    const double worth = ear->lies * ear->covers;
    out.seen = worth > kEarSeen || (worth > kEarSeenWithEdge && ear->clear > kEarEdge);
    if (!out.seen) {
        out.why = "no ear is seen here: it is covered, missing, or lies outside the scan";
        return out;
    }
    if (const SurfaceHit hit = surface.closest(ear->tragion, 12, nullptr))
        out.points["tragion_" + side] = hit.position;
    out.clear["tragion_" + side] = ear->clear;
    take_extreme(*ear, Vec3::UnitY(), "superaurale_" + side, out);
    take_extreme(*ear, -Vec3::UnitY(), "subaurale_" + side, out);
    take_extreme(*ear, -Vec3::UnitZ(), "postaurale_" + side, out);
    for (const RimPoint& p : ear->rim) out.rim.push_back(p.place);
    return out;
}

}  // namespace

double ear_error(const std::string& name, const MarkedEar& ear) {
    const auto at = ear.clear.find(name);
    const double clear = at == ear.clear.end() ? ear.rim_clear : at->second;
    const ErrorWeights& w = name.starts_with("tragion") ? kTragion : name.starts_with("subaurale") ? kLobe : kRim;
    // how unlike any ear that is known: there the same place is another one
    const double unlike = std::max(0.0, kLikeAnEar - ear.lies * ear.covers);
    const double lies = w.usual + w.unlike * std::min(1.0, unlike / kUnlikeFrom) + w.each * unlike;
    const double faint = std::min(kMostFaintMm, w.faint * (1 - clear) * (1 - clear));
    return std::hypot(lies, faint, w.rival * std::max(0.0, ear.rival - 0.5));
}

std::array<MarkedEar, 2> mark_ears(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                                   const SourceSurface& surface, const Progress& progress) {
    return {marked_ear(kit, base_points, "r", surface, progress),
            marked_ear(kit, base_points, "l", surface, progress)};
}

}  // namespace veld
