#include <tbb/parallel_for.h>

#include <chrono>
#include <cmath>

#include "core/fit/wrapper.h"
#include "core/linalg/statistics.h"
#include "core/mesh/polyline.h"

namespace veld {
namespace {

constexpr double kContactStrength = 300.0;  // against 1 for a match of the same area
constexpr double kContactBreaksMm = 4.0;
// What nothing holds returns to the shape that the wrap began with over about this length; the energy alone would let
// it shrink or grow evenly. Where there are matches it counts for nothing.
// Forms smaller than this are bent from the base's own: what the shape that the wrap began with has of them lies at
// other places in every head.
constexpr double kOwnFormMm = 2.5;
constexpr double kReturnMm = 25.0, kMostReturn = 0.05;
// averaging a scan's noise takes a moment and shows only in the last levels: the first shape need not wait for it
constexpr double kDenoiseFrom = 0.65;
// of conjugate gradients: of the bending length, what may be left; a factorisation takes as long as eight steps
constexpr double kNearShare = 1e-3;
constexpr int kMostSteps = 3;
constexpr double kAlongFromMm = 8, kAlongLeast = 0.5;  // of the bending length; cosine
constexpr int kKeptEvery = 3;                          // of the levels: what a repair may go back to

double now_seconds() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

}  // namespace

SurfaceEnergy Wrapper::make_energy() {
    const double start = now_seconds();
    SurfaceStencil stencil = surface_->stencil;
    std::vector<std::pair<Index, Index>> extra;
    const auto couple = [&](const SurfacePoint& place) {
        for (Index a : place.vertices) {
            for (Index b : place.vertices) {
                if (stencil.unknown[a] != kNone && stencil.unknown[b] != kNone)
                    extra.emplace_back(stencil.unknown[a], stencil.unknown[b]);
            }
        }
    };
    for (const ContactPair& c : p_.contacts) {
        const Index all[4] = {c.vertex, c.other[0], c.other[1], c.other[2]};
        for (Index a : all) {
            for (Index b : all) {
                if (stencil.unknown[a] != kNone && stencil.unknown[b] != kNone)
                    extra.emplace_back(stencil.unknown[a], stencil.unknown[b]);
            }
        }
    }
    for (const PointPull& pull : p_.points) couple(pull.place);
    for (const CurvePull& curve : p_.curves) {
        for (const SurfacePoint& place : curve.places) couple(place);
    }
    SurfaceEnergy out(std::move(stencil), rest(), std::move(extra));
    times_.analyse = now_seconds() - start;
    return out;
}

void Wrapper::pull(const SurfacePoint& place, const Vec3& target, double weight, Points& rhs) {
    const SurfaceStencil& s = energy_.stencil();
    Vec3 rest = target;  // held vertices move to the right-hand side
    for (std::size_t k = 0; k < 3; ++k) {
        if (s.unknown[place.vertices[k]] == kNone) rest -= place.weights[k] * x_[place.vertices[k]];
    }
    std::vector<double>& values = energy_.solver().values();
    for (std::size_t a = 0; a < 3; ++a) {
        const Index i = s.unknown[place.vertices[a]];
        if (i == kNone || place.weights[a] == 0) continue;
        rhs[i] += weight * place.weights[a] * rest;
        for (std::size_t b = 0; b <= a; ++b) {
            const Index j = s.unknown[place.vertices[b]];
            if (j != kNone && place.weights[b] != 0)
                values[energy_.solver().slot(i, j)] += weight * place.weights[a] * place.weights[b];
        }
    }
}

void Wrapper::pull_all(const WrapLevel& level, Points& rhs) {
    // A thin plate of bending length lambda on its bed resists a point load with 8 lambda^2 and a line load
    // with 2 sqrt(2) lambda per mm [Timoshenko & Woinowsky-Krieger 1959, ch. 8]; strengths are multiples.
    const double point = 8 * level.lambda * level.lambda * level.landmark;
    for (const PointPull& p : p_.points) pull(p.place, p.target, point * p.weight, rhs);
    const double line = 2 * std::sqrt(2.0) * level.lambda * std::max(level.landmark, 1.0);
    for (const CurvePull& curve : p_.curves) {
        double length = 0;
        for (std::size_t i = 1; i < curve.places.size(); ++i)
            length += (curve.places[i].at(x_) - curve.places[i - 1].at(x_)).norm();
        const double spacing = length / static_cast<double>(std::max<std::size_t>(curve.places.size() - 1, 1));
        for (const SurfacePoint& place : curve.places) {
            pull(place, closest_on_polyline(place.at(x_), curve.target), line * spacing * curve.weight, rhs);
        }
    }
}

// Lips, lids and the walls of the mouth keep the gap that they have on the base, turned and scaled with
// their neighbourhood. A mouth that the data clearly opens breaks the tie.
void Wrapper::keep_contacts(Points& rhs) {
    if (p_.contacts.empty()) return;
    const SurfaceStencil& s = energy_.stencil();
    const Points& base = rest();
    const std::vector<Mat3> local = local_similarities(s, base, x_);
    std::vector<Index> ring_of(x_.size(), kNone);
    for (Index r = 0; r < s.ring_vertex.size(); ++r) ring_of[s.ring_vertex[r]] = r;
    std::vector<double>& values = energy_.solver().values();
    for (const ContactPair& c : p_.contacts) {
        const Index ids[4] = {c.vertex, c.other[0], c.other[1], c.other[2]};
        const double share[4] = {1.0, -c.weights[0], -c.weights[1], -c.weights[2]};
        Vec3 gap = Vec3::Zero(), now = Vec3::Zero();
        bool held = false;
        for (int k = 0; k < 4; ++k) {
            gap += share[k] * base[ids[k]];
            now += share[k] * x_[ids[k]];
            held |= s.unknown[ids[k]] == kNone;
        }
        if (held || ring_of[c.vertex] == kNone) continue;
        gap = local[ring_of[c.vertex]] * gap;
        const double w =
            kContactStrength * s.vertex_area[c.vertex] * geman_mcclure((now - gap).norm(), kContactBreaksMm);
        for (int a = 0; a < 4; ++a) {
            rhs[s.unknown[ids[a]]] += w * share[a] * gap;
            for (int b = 0; b <= a; ++b)
                values[energy_.solver().slot(s.unknown[ids[a]], s.unknown[ids[b]])] += w * share[a] * share[b];
        }
    }
}

// Where the problem asks for it the surface stays as stiff as a longer bending length would make it.
void Wrapper::apply_stiffness(double lambda) {
    std::vector<double> effective = stiffness_;
    for (std::size_t v = 0; v < p_.least_smooth.size(); ++v)
        effective[v] *= std::max(1.0, std::pow(p_.least_smooth[v] / lambda, 4));
    energy_.set_stiffness(effective);
    stiffness_lambda_ = lambda;
}

// The nearest places of a belly spread a flat base out over its flanks: on smooth trunks, where nothing else says how
// far along a place lies, each goes along its own normal instead, as far as the nearest place's tangent plane.
void Wrapper::match_along_normals() {
    const Points normals = vertex_normals(x_, triangles_);
    tbb::parallel_for(std::size_t{0}, matches_.size(), [&](std::size_t v) {
        Match& m = matches_[v];
        if (m.weight <= 0) return;
        const Vec3 way = m.position - x_[v];
        const double far = way.norm(), along = way.dot(normals[v]);
        if (far < 1e-9 || std::abs(along) < kAlongLeast * far) return;
        m.position = x_[v] + far * far / along * normals[v];
    });
}

Status Wrapper::round(const WrapLevel& level) {
    const double t0 = now_seconds();
    if (level.match) {
        matches_ = match_to_source(p_, match_, x_, level.match_mm, settings_.max_angle_degrees, averaged_);
    }
    if (level.match && settings_.part != FitPart::Head && level.lambda > kAlongFromMm) match_along_normals();
    const double t1 = now_seconds();
    Points rhs;
    if (level.lambda != stiffness_lambda_) apply_stiffness(level.lambda);
    energy_.set_base(level.lambda < kOwnFormMm ? p_.base->positions : rest());
    energy_.assemble(level.lambda, 0.15 * level.lambda, x_, rhs);
    const SurfaceStencil& s = energy_.stencil();
    std::vector<double>& values = energy_.solver().values();
    const double back = p_.rest ? std::min(kMostReturn, std::pow(level.lambda / kReturnMm, 4)) : 0;
    for (Index u = 0; u < s.vertex.size(); ++u) {
        const Index v = s.vertex[u];
        const double w = level.match && !matches_.empty() ? s.vertex_area[v] * matches_[v].weight : 0.0;
        const double held = p_.hold.empty() ? 0.0 : s.vertex_area[v] * p_.hold[v];
        const double returns = s.vertex_area[v] * back;
        values[energy_.solver().slot(u, u)] +=
            w + held + returns + 1e-9;  // the trace keeps unreachable vertices determined
        Vec3 target = w > 0 ? matches_[v].position : Vec3(Vec3::Zero());
        if (w > 0 && !p_.way.empty()) target += (1 - p_.way[v]) * (p_.base->positions[v] - target);
        rhs[u] += w * target + held * p_.base->positions[v] + returns * rest()[v] + 1e-9 * x_[v];
    }
    pull_all(level, rhs);
    keep_contacts(rhs);
    times_.query += t1 - t0;
    auto solved = solve(level, rhs);
    if (!solved) return solved.error();
    for (Index u = 0; u < s.vertex.size(); ++u) x_[s.vertex[u]] = (*solved)[u];
    ++times_.rounds;
    if (progress_.live) progress_.live(x_);
    return Done{};
}

// On one level only the matches' weights change: the last factor is nearly the next one, until they change a lot.
Result<Points> Wrapper::solve(const WrapLevel& level, const Points& rhs) {
    const double start = now_seconds();
    if (level.lambda == factored_lambda_) {
        Points guess;
        for (const Index v : energy_.stencil().vertex) guess.push_back(x_[v]);
        auto near = energy_.solver().solve_near(rhs, guess, kNearShare * level.lambda, kMostSteps);
        times_.solve += now_seconds() - start;
        if (near) return *std::move(near);
    }
    const double before = now_seconds();
    if (auto ok = energy_.solver().factor(); !ok) return ok.error();
    const double factored = now_seconds();
    times_.factor += factored - before;
    Points out = energy_.solver().solve(rhs);
    times_.solve += now_seconds() - factored;
    factored_lambda_ = level.lambda;
    return out;
}

WrapLevel Wrapper::level_at(double f) const {
    WrapLevel level;
    level.lambda = settings_.smooth_start_mm * std::pow(settings_.smooth_end_mm / settings_.smooth_start_mm, f);
    level.match_mm = settings_.match_start_mm * std::pow(settings_.match_end_mm / settings_.match_start_mm, f);
    // Misplaced points are averaged while the surface is stiff; once it follows detail they would only dent it.
    level.landmark = settings_.landmark_strength * 4.0 * std::pow(0.01, f);
    return level;
}

Result<WrapResult> Wrapper::run() {
    const double start = now_seconds();
    const int levels = p_.levels > 0 ? p_.levels : settings_.levels,
              iterations = p_.iterations > 0 ? p_.iterations : settings_.iterations;
    const int total = levels * iterations + 6;
    int done = 0;
    const auto step = [&](const WrapLevel& level, const std::string& stage) -> Status {
        if (progress_.is_cancelled()) return Error{ErrorCode::Cancelled, "Fit cancelled; nothing was changed."};
        progress_.say(static_cast<double>(done++) / total, stage);
        return round(level);
    };
    WrapLevel first = level_at(0);
    first.match = false;
    // with nothing that holds it, the stiff first pass has no answer
    if (!p_.points.empty() && first.landmark > 0 && !p_.start) {
        for (int i = 0; i < 4; ++i) {
            if (auto ok = step(first, "Bending to the landmarks"); !ok) return ok.error();
        }
    }
    for (int l = 0; l < levels; ++l) {
        const double way = levels > 1 ? p_.from + (p_.to - p_.from) * l / (levels - 1) : p_.to;
        WrapLevel level = level_at(way);
        level.match = p_.source != nullptr;
        if (way >= kDenoiseFrom && p_.source) averaged_ = p_.source->denoised_places();
        for (int i = 0; i < iterations; ++i) {
            if (auto ok = step(level, "Wrapping, level " + std::to_string(l + 1) + " of " + std::to_string(levels));
                !ok)
                return ok.error();
        }
        if (l % kKeptEvery == 0) earlier_.push_back(x_);
    }
    progress_.say(0.97, "Settling");
    WrapResult out;
    WrapLevel last = level_at(p_.to);
    last.match = p_.source != nullptr;
    if (auto ok = repair_around(last, &out.repaired_vertices); !ok) return ok.error();
    out.matches = match_to_source(p_, p_.match, x_, settings_.match_end_mm, settings_.max_angle_degrees, averaged_);
    out.positions = std::move(x_);
    out.times = times_;
    out.times.total = now_seconds() - start + times_.analyse;
    return out;
}

std::shared_ptr<const ProblemSurface> surface_of(const WrapProblem& problem) {
    if (problem.surface) return problem.surface;
    return std::make_shared<ProblemSurface>(ProblemSurface{
        face_triangles(*problem.base, problem.faces), make_stencil(*problem.base, problem.faces, problem.active)});
}

Result<WrapResult> wrap_surface(const WrapProblem& problem, const FitSettings& settings, const Progress& progress) {
    return Wrapper(problem, settings, progress).run();
}

std::vector<Match> match_to_source(const WrapProblem& p, const std::vector<double>& match, const Points& now,
                                   double scale_mm, double max_angle_degrees, const Points* averaged) {
    std::vector<Match> out(now.size());
    if (!p.source) return out;
    const Points normals =
        p.surface ? vertex_normals(now, p.surface->triangles) : vertex_normals(now, face_triangles(*p.base, p.faces));
    const double min_cosine = std::cos(max_angle_degrees * M_PI / 180);
    tbb::parallel_for(std::size_t{0}, now.size(), [&](std::size_t v) {
        if (!p.active[v] || match[v] <= 0) return;
        const FacingFilter facing{normals[v], min_cosine};
        const SurfaceHit hit = p.source->closest(now[v], 3 * scale_mm, &facing);
        if (!hit || p.source->on_border(hit)) return;
        const double under = p.only_under ? SourceSurface::lies_under(hit, now[v], normals[v]) : 1;
        if (under <= 0) return;
        out[v] = {p.source->target(hit, averaged), under * match[v] * geman_mcclure(hit.distance, scale_mm),
                  hit.distance};
    });
    return out;
}

TriangleIndices flipped_triangles(const SurfaceStencil& stencil, const std::vector<Triangle>& triangles,
                                  const Points& base, const Points& now) {
    const std::vector<Mat3> local = local_similarities(stencil, base, now);
    std::vector<Index> ring_of(now.size(), kNone);
    TriangleIndices out;
    for (Index r = 0; r < stencil.ring_vertex.size(); ++r) ring_of[stencil.ring_vertex[r]] = r;
    for (Index t = 0; t < triangles.size(); ++t) {
        const Triangle& v = triangles[t];
        Mat3 turn = Mat3::Zero();
        for (Index i : v) turn += ring_of[i] == kNone ? Mat3(Mat3::Identity()) : local[ring_of[i]];
        const auto normal = [&](const Points& x) { return Vec3((x[v[1]] - x[v[0]]).cross(x[v[2]] - x[v[0]])); };
        if ((turn * normal(base)).dot(normal(now)) < 0) out.push_back(t);
    }
    return out;
}

}  // namespace veld
