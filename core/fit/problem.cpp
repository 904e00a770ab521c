#include "core/fit/problem.h"

#include <cmath>

#include "core/base/smoothstep.h"
#include "core/fit/floor.h"
#include "core/kit/kit_surface.h"
#include "core/mesh/topology.h"
#include "core/spatial/self_intersections.h"

namespace veld {
namespace {

// Regions of the skin that no camera sees: they keep their shape and follow their rims.
constexpr const char* kHidden[] = {"socket_l",       "socket_r",     "mouth_inner", "mouth_in",
                                   "nostril_inside", "nostril_in_l", "nostril_in_r"};

constexpr double kCreaseReachMm = 25.0;  // what stands nearer than this hides a place
constexpr double kContactGapMm = 2.5;
constexpr double kOpenEndMm = 5.0;  // a curve's end this far past the end of what was marked has no counterpart
constexpr double kHeld = 0.999;     // kept to this degree is not moved at all

// Skin that is hardly seen from outside is not matched; sheets face to face are tied.
void apply_creases(const BaseCreases& creases, WrapProblem& problem) {
    for (std::size_t v = 0; v < problem.match.size(); ++v) {
        problem.match[v] *= smoothstep((creases.open[v] - 0.18) / 0.22);
    }
    for (const ContactPair& c : creases.contacts) {
        if (problem.active[c.vertex]) problem.contacts.push_back(c);
    }
}

void apply_regions(const BaseKit& kit, const FitSettings& settings, WrapProblem& problem,
                   std::vector<std::string>& notes) {
    problem.hold.assign(problem.match.size(), 0.0);
    for (const auto& [name, setting] : settings.regions) {
        const std::vector<float> weight = region_weights(kit, settings, name);
        if (weight.empty())
            notes.push_back("There is no region '" + name +
                            "', neither of the kit nor painted; its setting was not used.");
        for (std::size_t v = 0; v < weight.size(); ++v) {
            const double w = weight[v];
            if (w <= 0) continue;
            problem.match[v] *= 1 - w * (1 - setting.match * (1 - setting.keep));
            problem.stiffness[v] *= std::pow(std::max(setting.stiffness, 1e-3), w);
            problem.least_smooth[v] = std::max(problem.least_smooth[v], w * setting.smooth_mm);
            problem.hold[v] = std::max(problem.hold[v], w * setting.keep);
        }
    }
    for (std::size_t v = 0; v < problem.hold.size(); ++v) {
        if (problem.hold[v] >= kHeld) problem.active[v] = 0, problem.match[v] = 0;
        // a match of full trust weighs 1; half kept is pulled both ways alike
        problem.hold[v] = problem.hold[v] / std::max(1 - problem.hold[v], 1 - kHeld);
    }
}

void add_pulls(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, const Similarity& to_kit,
               WrapProblem& problem) {
    const BaseKit& kit = *input.kit;
    const FitSettings& settings = input.settings;
    for (const auto& [name, p] : input.landmarks.points) {
        const auto at = base_points.find(name);
        if (at == base_points.end() || !places_part(name, settings.part)) continue;
        const bool pupil = name.starts_with("pupil");  // lies on the eyeball, which is no skin
        if (!pupil && problem.active[at->second.vertices[0]]) {
            const double weight = name == "cervicale" && settings.part == FitPart::Head ? 0.05 : 1.0;
            problem.points.push_back(
                {name, at->second, to_kit(p), weight * trust_weight(input.landmarks.trust_of(name))});
        }
    }
    if (!settings.use_curves || settings.curve_strength <= 0) return;
    for (const auto& [name, line] : input.landmarks.curves) {
        const auto& curves = input.base_curves.empty() ? kit.curves : input.base_curves;
        const auto at = curves.find(name);
        if (at == curves.end() || line.size() < 2 || !problem.active[at->second.front().vertices[0]]) continue;
        CurvePull pull{name, at->second, {}, settings.curve_strength * trust_weight(input.landmarks.trust_of(name))};
        for (const Vec3& p : line) pull.target.push_back(to_kit(p));
        problem.curves.push_back(std::move(pull));
    }
}

}  // namespace

VertexMask moving_vertices(const BaseKit& kit, FitPart part, const std::vector<double>& fade) {
    VertexMask out(kit.mesh.positions.size(), 0);
    for (const Index v : kit.part("skin")->vertices)
        out[v] = part == FitPart::All || (part == FitPart::Head) == (fade[v] > 0);
    if (part == FitPart::Body) {
        for (const Index v : kit.neck_ring) out[v] = 0;
    }
    return out;
}

VertexIndices hidden_skin(const BaseKit& kit) {
    VertexIndices out;
    for (const char* name : kHidden) {
        const VertexIndices& region = kit.region(name);
        out.insert(out.end(), region.begin(), region.end());
    }
    return out;
}

BaseCreases find_creases(const BaseKit& kit, const VertexMask& moving) {
    BaseCreases out;
    out.open = openness(kit.mesh.positions, solid_triangles(kit), moving, kCreaseReachMm);
    const std::vector<Triangle>& triangles = skin_triangles(kit);
    out.contacts = contact_pairs(kit.mesh.positions, triangles, out.open, kContactGapMm, 0.5);
    out.cuts = skin_cuts(kit);
    return out;
}

std::vector<float> region_weights(const BaseKit& kit, const FitSettings& settings, const std::string& region) {
    if (const auto own = settings.own_regions.find(region); own != settings.own_regions.end())
        return spread_out(own->second, kit.mesh.positions.size());
    const VertexIndices& vertices = kit.region(region);
    if (vertices.empty()) return {};
    return soft_region(kit.mesh.positions, kit_neighbours(kit), vertices, settings.region_fade_mm);
}

WrapProblem make_problem(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                         const Similarity& to_kit, const SourceSurface* surface, const BaseCreases& creases,
                         std::vector<std::string>& notes) {
    const BaseKit& kit = *input.kit;
    const FitSettings& settings = input.settings;
    WrapProblem problem;
    problem.base = &kit.mesh;
    problem.source = surface;
    // a cap must not draw the skull sideways; between an arm and the trunk the places beside are all that holds the
    // skin
    problem.only_under = settings.part == FitPart::Head;
    problem.base_cuts = &creases.cuts;
    problem.faces = skin_faces(kit);
    const std::size_t count = kit.mesh.positions.size();
    problem.match.assign(count, 0.0);
    problem.stiffness.assign(count, 1.0);
    problem.least_smooth.assign(count, 0.0);
    const std::vector<double> fade = head_fade(kit, settings.neck_band_mm);
    problem.active = moving_vertices(kit, settings.part, fade);
    for (const Index v : kit.part("skin")->vertices) {
        if (surface)
            problem.match[v] = settings.part == FitPart::All    ? 1.0
                               : settings.part == FitPart::Head ? fade[v]
                                                                : (fade[v] > 0 ? 0.0 : 1.0);
    }
    // above the seam a match is wanted in part only: one that is only weaker would go all of the way, and one that is
    // only stiffer would stay behind as a whole; both leave a ledge
    if (settings.part == FitPart::Head) problem.way = fade;
    for (const Index v : hidden_skin(kit)) problem.match[v] = 0;
    apply_creases(creases, problem);
    apply_regions(kit, settings, problem, notes);
    add_pulls(input, base_points, to_kit, problem);
    problem.surface = surface_of(problem);
    return problem;
}

void leave_open_ends(const Points& shape, WrapProblem& problem) {
    for (CurvePull& curve : problem.curves) {
        Points at;
        for (const SurfacePoint& place : curve.places) at.push_back(place.at(shape));
        const auto nearest = [&](const Vec3& p) {
            return std::min_element(
                       at.begin(), at.end(),
                       [&](const Vec3& a, const Vec3& b) { return (a - p).squaredNorm() < (b - p).squaredNorm(); }) -
                   at.begin();
        };
        const auto [first, last] = std::minmax({nearest(curve.target.front()), nearest(curve.target.back())});
        const auto is_open = [&](std::ptrdiff_t from, std::ptrdiff_t to, const Vec3& end) {
            double length = 0;
            for (std::ptrdiff_t i = from; i < to; ++i)
                length += (at[static_cast<std::size_t>(i + 1)] - at[static_cast<std::size_t>(i)]).norm();
            return length > kOpenEndMm &&
                   std::none_of(problem.points.begin(), problem.points.end(), [&](const PointPull& p) {
                       return (p.place.at(shape) - end).squaredNorm() < kOpenEndMm * kOpenEndMm;
                   });
        };
        const auto count = static_cast<std::ptrdiff_t>(at.size());
        const bool before = is_open(0, first, at.front()), after = is_open(last, count - 1, at.back());
        if (after) curve.places.erase(curve.places.begin() + last + 1, curve.places.end());
        if (before) curve.places.erase(curve.places.begin(), curve.places.begin() + first);
    }
}

// What a figure stands on is no part of it.
VertexMask never_matched(const FitInput& input, const Similarity& to_kit) {
    if (input.settings.part != FitPart::Head) return ignored_with_floor(*input.source, to_kit, input.ignored);
    return input.ignored ? *input.ignored : VertexMask(input.source->positions.size(), 0);
}

}  // namespace veld
