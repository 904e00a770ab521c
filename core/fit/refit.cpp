// A fit carried on: what changed, what of the surface that concerns, and a wrap of that piece alone.
#include <algorithm>
#include <cmath>
#include <set>

#include "core/fit/articulate.h"
#include "core/fit/fit_placed.h"
#include "core/fit/rest_doubt.h"
#include "core/kit/kit_surface.h"
#include "core/mesh/soft_region.h"
#include "core/mesh/topology.h"

namespace veld {
namespace {

constexpr double kPointReachMm = 45, kReachPerMm = 3;  // around a point that moved, and how that grows with the move
constexpr double kCurveReachMm = 35, kAreaReachMm = 25;
constexpr double kWhole = 0.5;       // share of the surface from which on all of it is solved
constexpr double kWholeFromMm = 18;  // bending length at which a warm start of all begins
constexpr int kPieceLevels = 9, kPieceIterations = 2, kWholeLevels = 8, kWholeIterations = 2;

struct Seeds {
    VertexIndices vertices;
    double reach = 0;
};

// Is a setting of the whole another one? Regions, painted weights and marks are looked at place by place.
bool whole_changed(FitSettings a, FitSettings b) {
    for (FitSettings* s : {&a, &b}) s->regions.clear(), s->own_regions.clear(), s->shut_mouth = true;
    return !(a == b);
}

// Another part, size or pose is another problem, not a change of this one.
bool another_problem(const FitSettings& a, const FitSettings& b) {
    return a.part != b.part || a.keep_true_size != b.keep_true_size || a.take_pose_out != b.take_pose_out ||
           a.use_surface != b.use_surface || a.neck_band_mm != b.neck_band_mm;
}

void add_place(const SurfacePoint& place, double reach, Seeds& out) {
    out.vertices.insert(out.vertices.end(), place.vertices.begin(), place.vertices.end());
    out.reach = std::max(out.reach, reach);
}

Seeds moved_points(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                   const FitStart& start) {
    Seeds out;
    for (const auto& [name, place] : base_points) {
        const auto now = input.landmarks.points.find(name), before = start.landmarks.points.find(name);
        const bool is = now != input.landmarks.points.end(), was = before != start.landmarks.points.end();
        if (!is && !was) continue;
        double moved = is && was ? start.placement.source_to_kit.scale * (now->second - before->second).norm()
                       : is      ? 10.0
                                 : 0.0;
        if (is == was && moved == 0 &&
            trust_weight(input.landmarks.trust_of(name)) == trust_weight(start.landmarks.trust_of(name)))
            continue;
        add_place(place, kPointReachMm + kReachPerMm * moved, out);
    }
    return out;
}

Seeds moved_curves(const FitInput& input, const FitStart& start) {
    Seeds out;
    const auto& curves = input.base_curves.empty() ? input.kit->curves : input.base_curves;
    for (const auto& [name, places] : curves) {
        const auto now = input.landmarks.curves.find(name), before = start.landmarks.curves.find(name);
        const bool is = now != input.landmarks.curves.end(), was = before != start.landmarks.curves.end();
        if (is == was && (!is || now->second == before->second)) continue;
        for (const SurfacePoint& place : places) add_place(place, kCurveReachMm, out);
    }
    return out;
}

Seeds changed_regions(const BaseKit& kit, const FitSettings& now, const FitSettings& before) {
    std::set<std::string> names;
    for (const FitSettings* s : {&now, &before}) {
        for (const auto& [name, setting] : s->regions) names.insert(name);
    }
    Seeds out;
    const auto setting_of = [](const FitSettings& s, const std::string& name) {
        const auto at = s.regions.find(name);
        return at == s.regions.end() ? RegionSetting() : at->second;
    };
    for (const std::string& name : names) {
        const std::vector<float> a = region_weights(kit, now, name), b = region_weights(kit, before, name);
        const bool same_setting = setting_of(now, name) == setting_of(before, name);
        for (Index v = 0; v < kit.mesh.positions.size(); ++v) {
            const float wa = a.empty() ? 0 : a[v], wb = b.empty() ? 0 : b[v];
            if (same_setting ? wa != wb : wa > 0 || wb > 0) add_place({0, {v, v, v}, {1, 0, 0}}, kAreaReachMm, out);
        }
    }
    return out;
}

// Base vertices over the source's areas that were or are no longer ignored.
Seeds changed_ignored(const FitInput& input, const FitStart& start) {
    Seeds out;
    if (!input.source || input.ignored == start.ignored) return out;
    const std::size_t count = input.source->positions.size();
    const auto ignored = [&](const VertexMask* mask, std::size_t v) { return mask && v < mask->size() && (*mask)[v]; };
    const KitPart& skin = *input.kit->part("skin");
    std::vector<Triangle> triangles;
    for (std::size_t t = 0; t < input.kit->triangulation.triangles.size(); ++t) {
        const Index face = input.kit->triangulation.triangle_face[t];
        if (skin.has_face(face)) triangles.push_back(input.kit->triangulation.triangles[t]);
    }
    const SurfaceQuery query(*start.positions, triangles);
    for (std::size_t v = 0; v < count; ++v) {
        if (ignored(input.ignored, v) == ignored(start.ignored, v)) continue;
        const SurfaceHit hit = query.closest(start.placement.source_to_kit(input.source->positions[v]), kAreaReachMm);
        if (hit)
            add_place(
                {0, {triangles[hit.triangle][0], triangles[hit.triangle][1], triangles[hit.triangle][2]}, {1, 0, 0}},
                kAreaReachMm, out);
    }
    return out;
}

double share_of_way(const FitSettings& s, double lambda_mm) {
    const double whole = std::log(s.smooth_end_mm / s.smooth_start_mm);
    return whole < 0 ? std::clamp(std::log(lambda_mm / s.smooth_start_mm) / whole, 0.0, 1.0) : 0.0;
}

WarmWrap plan(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, const FitStart& start,
              const VertexMask& moving, double* solved) {
    WarmWrap out;
    out.start = *start.positions;
    out.active = moving;
    const auto all = static_cast<double>(std::count(moving.begin(), moving.end(), 1));
    std::vector<float> reached(moving.size(), 0);
    double longest = 0;
    const Adjacency& ways = kit_neighbours(*input.kit);
    for (const Seeds& s :
         {moved_points(input, base_points, start), moved_curves(input, start),
          changed_regions(*input.kit, input.settings, start.settings), changed_ignored(input, start)}) {
        if (s.vertices.empty()) continue;
        longest = std::max(longest, s.reach);
        const std::vector<float> here = soft_region(input.kit->mesh.positions, ways, s.vertices, s.reach);
        for (std::size_t v = 0; v < here.size(); ++v) reached[v] = std::max(reached[v], here[v]);
    }
    double count = 0;
    for (std::size_t v = 0; v < moving.size(); ++v) count += moving[v] && reached[v] > 0;
    const bool whole = longest == 0 || whole_changed(input.settings, start.settings) || count > kWhole * all;
    for (std::size_t v = 0; v < moving.size(); ++v) {
        if (!whole) out.active[v] = moving[v] && reached[v] > 0;
        if (!moving[v]) out.start[v] = input.kit->mesh.positions[v];  // regions that are kept from now on
    }
    out.from = share_of_way(input.settings, whole ? kWholeFromMm : 0.6 * longest);
    out.levels = whole ? kWholeLevels : kPieceLevels, out.iterations = whole ? kWholeIterations : kPieceIterations;
    if (solved) *solved = whole ? 1 : all > 0 ? count / all : 0;
    return out;
}

}  // namespace

Result<FitResult> refit(const FitInput& input, const FitStart& start, const Progress& progress, double* solved) {
    if (solved) *solved = 1;
    const bool fits = start.positions && start.positions->size() == input.kit->mesh.positions.size();
    if (!fits || another_problem(input.settings, start.settings)) return run_fit(input, progress);
    if (input.source) {
        if (auto ok = check_mesh(*input.source, "The source"); !ok) return ok.error();
    }
    progress.say(0, "Going on");
    const auto base_points = input.base_points.empty() ? input.kit->landmarks : input.base_points;
    FitResult out;
    out.settings = input.settings;
    out.placement = start.placement, out.pose = start.pose, out.cache = start.cache;
    if (input.ignored != start.ignored) out.cache.surface = nullptr, out.cache.likely = nullptr;
    const BaseKit posed = start.pose ? posed_kit(*input.kit, *start.pose) : BaseKit();
    FitInput bent = input;
    if (start.pose) bent.kit = &posed;
    if (auto ok = fill_fit_cache(bent, out.placement.source_to_kit, out.cache); !ok) return ok.error();
    const WrapProblem problem =
        make_problem(bent, base_points, out.placement.source_to_kit,
                     input.settings.use_surface ? out.cache.surface.get() : nullptr, *out.cache.creases, out.notes);
    WarmWrap warm = plan(bent, base_points, start, problem.active, solved);
    warm.problem = problem;
    auto fitted = fit_placed(bent, base_points, std::move(out), &warm, progress);
    if (fitted && fitted->pose)
        fitted->figures.rest = rest_doubts(*input.kit, fitted->positions, *fitted->pose, fitted->distances);
    return fitted;
}

}  // namespace veld
