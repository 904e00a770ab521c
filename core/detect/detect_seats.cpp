// Landmarks that the surface itself shows more sharply than a fit of the whole head: each is moved from where the fit
// has it to the edge, fold or extreme that its definition names.
#include <cmath>

#include "core/detect/caliper.h"
#include "core/detect/detector.h"
#include "core/detect/lid_edges.h"
#include "core/detect/lip_edges.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

// Where edge and fit agree the fit knows better which place of the base it is.
constexpr double kLineAgreesMm = 0.6, kPointAgreesMm = 1.0;
constexpr double kMostAlongMm = 3;   // of a lid's edge
constexpr double kExtremeMm = 0.15;  // an arch is flat at its highest place
constexpr double kMovedCurve = 0.3;  // of how far a curve was moved: how far off it may be

double mean_apart(const Points& a, const Points& b) {
    double sum = 0;
    for (std::size_t i = 0; i < a.size(); ++i) sum += (a[i] - b[i]).norm() / static_cast<double>(a.size());
    return sum;
}

// Of the arch between the corners.
double highest_x(const Points& line) {
    double high = -1e18, sum = 0, weights = 0;
    for (std::size_t i = 1; i + 1 < line.size(); ++i) high = std::max(high, line[i].y());
    for (std::size_t i = 1; i + 1 < line.size(); ++i) {
        const double w = std::exp((line[i].y() - high) / kExtremeMm);
        sum += w * line[i].x(), weights += w;
    }
    return sum / weights;
}

}  // namespace

Points Detector::in_kit(const Points& on_source) const {
    Points out;
    for (const Vec3& p : on_source) out.push_back(out_.to_kit(p));
    return out;
}

// As deep in their slits as on the base, and no deeper: a fit slides down into them.
void Detector::seat_commissures() {
    constexpr double kLeastMm = 0.2;
    const SurfaceQuery base(kit_.mesh.positions, solid_triangles(kit_));
    for (const char* name : kCommissures) {
        const auto found = out_.set.points.find(name);
        if (found == out_.set.points.end() || !base_points_.contains(name)) continue;
        const Vec3 at = out_.to_kit(found->second);
        const double deeper = slit_depth(*look_.surface.query, at) - slit_depth(base, on_base(name));
        if (deeper < kLeastMm) continue;
        const SurfaceHit hit = look_.surface.closest(at + deeper * Vec3::UnitZ(), kOnSurfaceMm, nullptr);
        if (hit) found->second = out_.to_kit.inverse()(hit.position);
    }
}

// The grooves at the foot of the nose and under the lower lip: deepest behind the chord, which a fit slides along.
void Detector::seat_grooves() {
    struct Groove {
        const char *name, *inner, *end;
    };
    constexpr Groove kGrooves[] = {{"subnasale", "upper_lip_inner", "pronasale"},
                                   {"sublabiale", "lower_lip_inner", "pogonion"}};
    const auto& points = out_.set.points;
    const bool open = out_.mouth_gap_mm > 0;
    for (const Groove& groove : kGrooves) {
        const auto found = out_.set.points.find(groove.name);
        const auto end = points.find(groove.end), mouth = points.find("stomion");
        const auto inner = out_.set.curves.find(groove.inner);
        if (found == points.end() || end == points.end()) continue;
        if (open ? inner == out_.set.curves.end() : mouth == points.end()) continue;
        const Vec3 from = out_.to_kit(open ? inner->second[inner->second.size() / 2] : mouth->second);
        const auto place = groove_beside_lip(*look_.surface.query, from, out_.to_kit(end->second));
        if (place) move_point(groove.name, *place);
    }
}

void Detector::move_point(const std::string& name, const Vec3& to) {
    const auto found = out_.set.points.find(name);
    if (found == out_.set.points.end()) return;
    const SurfaceHit hit = look_.surface.closest(to, kOnSurfaceMm, nullptr);
    if (!hit) return;
    const double moved = (out_.to_kit(found->second) - hit.position).norm();
    if (moved < kPointAgreesMm) return;
    out_.evidence[name].moved = moved;
    found->second = out_.to_kit.inverse()(hit.position);
}

void Detector::move_curve(const std::string& name, const Points& line) {
    Points& curve = out_.set.curves.at(name);
    const Similarity back = out_.to_kit.inverse();
    const double moved = mean_apart(in_kit(curve), line);
    for (std::size_t i = 0; i < line.size(); ++i) curve[i] = back(line[i]);
    Trust& trust = out_.set.trust[name];
    trust.expected_mm = std::hypot(trust.expected_mm, kMovedCurve * moved);
}

Points Detector::on_posed(const std::string& curve) const {
    Points out;
    const auto at = base_curves_.find(curve);
    for (std::size_t i = 0; at != base_curves_.end() && i < at->second.size(); ++i)
        out.push_back(at->second[i].at(posed().mesh.positions));
    return out;
}

// A corner, where the source's edges meet: as far from there as the base's is from where its own edges meet, found the
// same way.
void Detector::move_corner(const std::string& name, const EdgePair& source, const EdgePair& base) {
    const auto place = base_points_.find(name);
    if (place == base_points_.end() || base.upper.line.size() < 2) return;
    const Vec3 corner = place->second.at(posed().mesh.positions);
    const auto& line = base.upper.line;
    const bool first = (line.front() - corner).norm() < (line.back() - corner).norm();
    const auto on_base = where_edges_meet(base, first), on_source = where_edges_meet(source, first);
    if (on_base && on_source) move_point(name, *on_source + (corner - *on_base));
}

// The edges of open and half-shut lids, with their highest and lowest places. Their corners lie too deep in folds to
// be read off edges that are carried on (tried: on the kit's own heads up to 5 mm off).
void Detector::seat_lids(const Points& fitted) {
    const SurfaceQuery base(posed().mesh.positions, solid_triangles(kit_));
    for (const KitEye& eye : kit_.eyes) {
        const bool left = eye.centre.x() > 0;
        const auto seat = eye_seat(kit_, eye, fitted), seat_of_base = eye_seat(kit_, eye, posed().mesh.positions);
        if (!seat || !seat_of_base || out_.lids[left] == LidState::Shut) continue;
        const EyeFrame frame{(*seat)(eye.centre), seat->scale * eye.radius, left},
            base_frame{(*seat_of_base)(eye.centre), seat_of_base->scale * eye.radius, left};
        const std::string side = left ? "_l" : "_r";
        for (const bool upper : {false, true}) {
            const std::string name = (upper ? "upper_lid" : "lower_lid") + side;
            if (!out_.set.curves.contains(name) || !base_curves_.contains(name)) continue;
            const Points guess = in_kit(out_.set.curves.at(name));
            const auto edge = follow_lid(*look_.surface.query, frame, guess, upper);
            if (!edge || mean_apart(guess, edge->line) < kLineAgreesMm) continue;
            const auto base_edge = follow_lid(base, base_frame, on_posed(name), upper);
            const std::string point = (upper ? "palpebrale_superius" : "palpebrale_inferius") + side;
            if (base_points_.contains(point))
                move_point(point, on_lid_edge(point, *edge, base_edge ? &*base_edge : nullptr));
            move_curve(name, edge->line);
        }
    }
}

// Where a lid's point is along its edge. An upper lid is arched: as far beside its highest place as the base's is. A
// lower one is so flat that its lowest place says little: as the fit has it.
Vec3 Detector::on_lid_edge(const std::string& name, const Edge& edge, const Edge* of_base) const {
    const auto found = out_.set.points.find(name);
    if (found == out_.set.points.end()) return edge.line[edge.line.size() / 2];
    double x = out_.to_kit(found->second).x();
    if (of_base && name.starts_with("palpebrale_superius")) {
        const double beside = base_points_.at(name).at(posed().mesh.positions).x() - highest_x(of_base->line);
        x = std::clamp(highest_x(edge.line) + beside, x - kMostAlongMm, x + kMostAlongMm);
    }
    std::size_t at = 0;
    for (std::size_t i = 1; i < edge.line.size(); ++i)
        if (std::abs(edge.line[i].x() - x) < std::abs(edge.line[at].x() - x)) at = i;
    // between two of its places
    const std::size_t a = at > 0 ? at - 1 : at, b = std::min(at + 1, edge.line.size() - 1);
    const double across = edge.line[b].x() - edge.line[a].x();
    const double t = std::abs(across) > 1e-9 ? std::clamp((x - edge.line[a].x()) / across, 0.0, 1.0) : 0.5;
    return edge.line[a] + t * (edge.line[b] - edge.line[a]);
}

// The corners of an open mouth. What is seen of the lips' edges from the front is where they turn away, so the curves
// stay where the fit has them.
void Detector::seat_mouth_corners() {
    if (!(out_.mouth_gap_mm > 0)) return;
    const SurfaceQuery base(posed().mesh.positions, solid_triangles(kit_));
    std::optional<Edge> edges[2], base_edges[2];
    for (const bool lower : {false, true}) {
        const std::string name = kInnerLips[lower];
        if (!out_.set.curves.contains(name) || !base_curves_.contains(name)) return;
        base_edges[lower] = follow_lip(base, on_posed(name), !lower);
        edges[lower] = follow_lip(*look_.surface.query, in_kit(out_.set.curves.at(name)), !lower);
    }
    if (!edges[0] || !edges[1] || !base_edges[0] || !base_edges[1]) return;
    for (const char* corner : {"cheilion_r", "cheilion_l"})
        move_corner(corner, {*edges[0], *edges[1]}, {*base_edges[0], *base_edges[1]});
}

// The farthest place of a wing of the nose.
void Detector::seat_wings() {
    for (const bool left : {false, true}) {
        const auto found = out_.set.points.find(left ? "alare_l" : "alare_r");
        if (found == out_.set.points.end()) continue;
        const Vec3 way = left ? Vec3::UnitX() : Vec3(-Vec3::UnitX());
        move_point(found->first, climbed(*look_.surface.query, out_.to_kit(found->second), way));
    }
}

}  // namespace veld
