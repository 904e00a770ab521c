// Faces that were turned over or cut one another on the way: the cleanest state is kept, as near to the source as it
// can be.
#include <algorithm>

#include "core/fit/push_apart.h"
#include "core/fit/wrapper.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

constexpr double kAwayMm = 4.0, kMostFurther = 1.15, kFurtherMm = 0.01;  // what a repair may cost
constexpr int kRelaxRings = 5, kRelaxSweeps = 8;
constexpr int kLeastRings = 2, kMostRings = 8;  // around a fault, left unmatched for good
constexpr int kAroundRings = 22;                // that a repair can reach from a fault
constexpr double kMostAround = 0.6;             // of the surface; more is repaired as a whole

}  // namespace

Wrapper::Faults Wrapper::faults_of(const Points& x) const {
    Faults out{surface_faults(p_, *surface_, base_cuts_, x), 0};
    double area = 0;
    const std::vector<double>& areas = energy_.stencil().vertex_area;
    const std::vector<Match> found = match_to_source(p_, p_.match, x, kAwayMm, settings_.max_angle_degrees);
    for (const Index v : energy_.stencil().vertex) {
        if (p_.match[v] < 0.5) continue;
        area += areas[v];
        out.away_mm += areas[v] * (found[v].weight > 0 ? std::min(found[v].distance, kAwayMm) : kAwayMm);
    }
    out.away_mm = out.away_mm / std::max(whole_area_ > 0 ? whole_area_ : area, 1e-9) + away_elsewhere_;
    return out;
}

// Clean faces in the wrong place are no repair: a crossing that nobody sees, between closed lips, weighs less than
// a cheek that left the scan.
bool Wrapper::better(const Faults& a, const Faults& b) {
    if (a.weight() >= b.weight()) return false;
    return a.away_mm <= kMostFurther * b.away_mm + kFurtherMm || a.flipped.size() < b.flipped.size();
}

// The shape as it is and with its sheets pushed apart: the cleaner of the two.
void Wrapper::settle(Settled& best) const {
    for (const bool pushed : {false, true}) {
        Settled now{x_, {}};
        if (pushed) {
            const TriangleIndices near = triangles_near(x_, triangles_, p_.active);
            push_apart(now.x, triangles_, p_.active, base_cuts_, &near);
        }
        now.faults = faults_of(now.x);
        if (best.x.empty() || better(now.faults, best.faults)) best = std::move(now);
        if (best.faults.weight() == 0) return;
    }
}

// Where faces are flipped or cut, sheets that slipped through each other are pushed apart, or the surface is bent
// without data in growing circles; the cleanest state of all is kept.
Status Wrapper::repair(const WrapLevel& last, int* repaired) {
    Settled best;
    settle(best);
    const Settled first = best;
    std::set<Index> touched, damaged = first.faults.vertices;
    for (int pass = 0; pass < 4 && best.faults.weight() > 0; ++pass) {
        if (progress_.is_cancelled()) return Error{ErrorCode::Cancelled, "Fit cancelled; nothing was changed."};
        for (int grow = 0; grow < 2 + pass; ++grow) damaged = with_neighbours(energy_.stencil(), damaged);
        for (Index v : damaged) match_[v] = 0;
        touched.insert(damaged.begin(), damaged.end());
        WrapLevel softer = last;
        softer.lambda = last.lambda * (2 + pass);
        for (int i = 0; i < 4; ++i) {
            if (auto ok = round(softer); !ok) return ok;
        }
        Settled now;
        settle(now);
        damaged = now.faults.vertices;
        x_ = now.x;
        if (now.faults.weight() < best.faults.weight()) best = std::move(now);
        if (damaged.empty()) break;
    }
    *repaired = static_cast<int>(touched.size());
    if (best.faults.weight() == first.faults.weight()) {
        best = first;
    } else {
        if (auto ok = match_again(last, first.faults.vertices, touched, best); !ok) return ok;
        keep_precise(first, best);
        if (!better(best.faults, first.faults)) best = first;
    }
    relax_faults(best);
    go_back(best);
    if (progress_.is_cancelled()) return Error{ErrorCode::Cancelled, "Fit cancelled; nothing was changed."};
    x_ = best.x;
    return Done{};
}

// The same on the surroundings of the faults alone, the rest held: on a whole figure that is a small part.
Status Wrapper::repair_around(const WrapLevel& last, int* repaired) {
    const Faults faults = faults_of(x_);
    if (faults.weight() == 0) return Done{};
    const SurfaceStencil& s = energy_.stencil();
    std::set<Index> around = faults.vertices;
    for (int ring = 0; ring < kAroundRings; ++ring) around = with_neighbours(s, around);
    WrapProblem problem = p_;
    std::size_t count = 0;
    for (Index v = 0; v < problem.active.size(); ++v) {
        problem.active[v] = p_.active[v] && around.contains(v);
        count += problem.active[v] != 0;
    }
    if (static_cast<double>(count) > kMostAround * static_cast<double>(s.vertex.size())) return repair(last, repaired);
    const std::vector<std::pair<Index, Index>> base_cuts(base_cuts_.begin(), base_cuts_.end());
    problem.surface = nullptr, problem.base_cuts = &base_cuts, problem.start = &x_;
    Progress quiet;
    quiet.cancelled = progress_.cancelled;
    Wrapper part(problem, settings_, quiet);
    part.match_ = match_, part.earlier_ = earlier_, part.averaged_ = averaged_;
    for (const Index v : s.vertex) part.whole_area_ += p_.match[v] < 0.5 ? 0 : s.vertex_area[v];
    part.away_elsewhere_ = faults.away_mm - part.faults_of(x_).away_mm;
    if (auto ok = part.repair(last, repaired); !ok) return ok;
    x_ = std::move(part.x_);
    times_.factor += part.times_.factor, times_.solve += part.times_.solve, times_.query += part.times_.query;
    return Done{};
}

// Slivers, which nothing else turns back: each as it is on the base, turned and stretched as the surface there is.
void Wrapper::turn_slivers_back(const std::vector<Mat3>& maps, const std::vector<Index>& ring_of, Points& x) const {
    const Points& base = p_.base->positions;
    for (const Index t : flipped_triangles(energy_.stencil(), triangles_, base, x)) {
        const Triangle& own = triangles_[t];
        Mat3 map = Mat3::Zero();
        for (const Index v : own) map += ring_of[v] == kNone ? Mat3(Mat3::Identity()) : maps[ring_of[v]];
        const Vec3 middle = (x[own[0]] + x[own[1]] + x[own[2]]) / 3,
                   base_middle = (base[own[0]] + base[own[1]] + base[own[2]]) / 3;
        for (const Index v : own) {
            if (energy_.stencil().unknown[v] != kNone) x[v] = middle + map / 3 * (base[v] - base_middle);
        }
    }
}

// The last few faces: their vertices go where their neighbours, each turned and stretched as the surface around it is,
// would have them. The smallest surroundings that help are taken.
void Wrapper::relax_faults(Settled& best) const {
    const SurfaceStencil& s = energy_.stencil();
    const Points& base = p_.base->positions;
    for (int rings = 0; rings < kRelaxRings && best.faults.weight() > 0; ++rings) {
        std::set<Index> around = best.faults.vertices;
        for (int ring = 0; ring < rings; ++ring) around = with_neighbours(energy_.stencil(), around);
        Settled now{best.x, {}};
        for (int sweep = 0; sweep < kRelaxSweeps; ++sweep) {
            const std::vector<Mat3> maps = local_similarities(s, base, now.x);
            std::vector<Index> ring_of(base.size(), kNone);
            for (Index r = 0; r < s.ring_vertex.size(); ++r) ring_of[s.ring_vertex[r]] = r;
            const Points before = now.x;
            for (const Index v : around) {
                if (s.unknown[v] == kNone || ring_of[v] == kNone) continue;
                Vec3 sum = Vec3::Zero();
                double weight = 0;
                for (Index k = s.ring_start[ring_of[v]]; k < s.ring_start[ring_of[v] + 1]; ++k) {
                    const Index j = s.neighbour[k];
                    if (ring_of[j] == kNone) continue;
                    sum += before[j] + maps[ring_of[j]] * (base[v] - base[j]);
                    ++weight;
                }
                if (weight > 0) now.x[v] = sum / weight;
            }
            turn_slivers_back(maps, ring_of, now.x);
        }
        now.faults = faults_of(now.x);
        if (better(now.faults, best.faults)) best = std::move(now);
    }
}

// The cleaner state was found with a softer surface everywhere: away from the faults the first one is the better.
void Wrapper::keep_precise(const Settled& first, Settled& best) const {
    std::set<Index> near = first.faults.vertices;
    near.insert(best.faults.vertices.begin(), best.faults.vertices.end());
    for (int rings = kLeastRings; rings <= kMostRings; rings *= 2) {
        Settled now{blended(energy_.stencil(), first.x, best.x, near, rings), {}};
        now.faults = faults_of(now.x);
        if (now.faults.weight() > best.faults.weight() || now.faults.away_mm >= best.faults.away_mm) continue;
        best = std::move(now);
        return;
    }
}

// Where nothing else helped: what the surface was at an earlier, stiffer level, around the faults only. The latest
// level and the smallest surroundings that help are taken.
void Wrapper::go_back(Settled& best) const {
    for (auto stage = earlier_.rbegin(); stage != earlier_.rend() && best.faults.weight() > 0; ++stage) {
        for (int rings = 1; rings <= kMostRings && best.faults.weight() > 0; rings *= 2) {
            if (progress_.is_cancelled()) return;
            Settled now{blended(energy_.stencil(), best.x, *stage, best.faults.vertices, rings), {}};
            now.faults = faults_of(now.x);
            if (better(now.faults, best.faults)) best = std::move(now);
        }
    }
}

// What was let go around a fault is matched again, as near to the fault as it stays clean.
Status Wrapper::match_again(const WrapLevel& last, std::set<Index> faulty, const std::set<Index>& touched,
                            Settled& best) {
    for (int rings = 1; rings <= kMostRings; rings *= 2) {
        if (progress_.is_cancelled()) return Error{ErrorCode::Cancelled, "Fit cancelled; nothing was changed."};
        for (int grow = 0; grow < std::max(1, rings / 2); ++grow) faulty = with_neighbours(energy_.stencil(), faulty);
        for (const Index v : touched) match_[v] = faulty.contains(v) ? 0 : p_.match[v];
        x_ = best.x;
        for (int i = 0; i < 4; ++i) {
            if (auto ok = round(last); !ok) return ok;
        }
        Settled now;
        settle(now);
        if (now.faults.weight() > best.faults.weight() || now.faults.away_mm > best.faults.away_mm) continue;
        best = std::move(now);
        return Done{};
    }
    return Done{};
}

}  // namespace veld
