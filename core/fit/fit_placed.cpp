#include "core/fit/fit_placed.h"

#include <tbb/parallel_invoke.h>

#include <cmath>

#include "core/base/stopwatch.h"
#include "core/fit/faults.h"
#include "core/fit/follow.h"
#include "core/fit/region_doubt.h"
#include "core/kit/kit_surface.h"

namespace veld {
namespace {

constexpr double kMeasureMm = 4.0;       // scale of the matches that figures are made of
constexpr double kPlainSmoothMm = 20.0;  // without a surface: softer than this only copies the points' errors
constexpr double kSeenOpen = 0.4;        // what is folded away deeper than this is always guessed
constexpr std::size_t kLeastTriangles = 20;

// The most likely head of those that the kit knows: the wrap begins with it, and what is not seen stays as it has it.
std::shared_ptr<const LikelyHead> likely_for(const FitInput& input, const WrapProblem& problem,
                                             const std::optional<Pose>& pose, const Similarity& to_kit) {
    if (input.settings.part != FitPart::Head || !input.settings.known_heads || !problem.source) return nullptr;
    LikelyInput of;
    of.kit = input.kit, of.pose = pose ? &*pose : nullptr;
    of.source = problem.source, of.match = &problem.match, of.points = problem.points;
    for (PointPull hint : input.hints) {
        hint.target = to_kit(hint.target);
        of.points.push_back(std::move(hint));
    }
    auto likely = likely_head(of);
    return likely ? std::make_shared<const LikelyHead>(std::move(*likely)) : nullptr;
}

// Figures of a shape, with what speaks against each region of a head.
FitFigures figures_of(const FitInput& input, const WrapProblem& problem, const BaseCreases& creases,
                      const LikelyHead* likely, const Points& shape, std::vector<float>* distances) {
    const auto matches = match_to_source(problem, problem.match, shape, kMeasureMm, input.settings.max_angle_degrees);
    TriangleIndices faulty;
    FitFigures out = measure_fit(*input.kit, problem, shape, matches, distances, &faulty);
    if (!problem.source) return out;
    for (const auto& [region, signs] :
         region_signs({*input.kit, input, problem, creases.open, shape, matches, likely, faulty}))
        out.doubts[region] = region_doubt(region, signs);
    return out;
}

// What was not matched, and how well the rest of the head tells it.
std::vector<float> guessed_places(const WrapProblem& problem, const BaseCreases& creases, const LikelyHead* likely,
                                  const std::vector<float>& distances) {
    std::vector<float> out;
    if (!likely || !problem.source) return out;
    out.assign(distances.size(), std::numeric_limits<float>::quiet_NaN());
    for (std::size_t v = 0; v < out.size(); ++v) {
        const bool looked_at = problem.active[v] && creases.open[v] >= kSeenOpen;
        if (looked_at && std::isnan(distances[v]) && likely->sure[v] > 0) out[v] = static_cast<float>(likely->sure[v]);
    }
    return out;
}

}  // namespace

Result<FitResult> fit_placed(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                             FitResult out, const WarmWrap* warm, const Progress& progress) {
    Stopwatch clock;
    const BaseKit& kit = *input.kit;
    const FitSettings& settings = input.settings;
    if (auto ok = fill_fit_cache(input, out.placement.source_to_kit, out.cache); !ok) return ok.error();
    const SourceSurface* surface = settings.use_surface ? out.cache.surface.get() : nullptr;
    if (surface && surface->small_components > 0)
        out.notes.push_back(std::to_string(surface->small_components) +
                            " small components of the source were not matched.");
    auto seconds = out.figures.seconds;
    seconds["place"] += clock.lap();
    WrapProblem problem =
        warm ? warm->problem
             : make_problem(input, base_points, out.placement.source_to_kit, surface, *out.cache.creases, out.notes);
    if (!settings.known_heads) out.cache.likely = nullptr;
    if (!out.cache.likely) out.cache.likely = likely_for(input, problem, out.pose, out.placement.source_to_kit);
    leave_open_ends(out.cache.likely ? out.cache.likely->positions : kit.mesh.positions, problem);
    WrapProblem part = problem;
    Points rest = kit.mesh.positions;  // what does not move stays as the base has it
    for (std::size_t v = 0; out.cache.likely && v < rest.size(); ++v) {
        if (problem.active[v]) rest[v] = out.cache.likely->positions[v];
    }
    if (out.cache.likely) part.rest = &rest;
    if (!surface)
        part.to = std::log(std::max(kPlainSmoothMm, settings.smooth_end_mm) / settings.smooth_start_mm) /
                  std::log(settings.smooth_end_mm / settings.smooth_start_mm);
    if (warm)
        part.start = &warm->start, part.active = warm->active, part.surface = nullptr, part.from = warm->from,
        part.levels = warm->levels, part.iterations = warm->iterations;
    auto wrapped = wrap_surface(part, settings, progress);
    if (!wrapped) return wrapped.error();
    seconds["wrap"] = clock.lap();
    out.positions = std::move(wrapped->positions);
    if (settings.part != FitPart::Body) {
        const Points wrapped_skin = out.positions;
        follow_parts(kit, surface, out.positions);
        take_back_faults(problem, wrapped_skin, out.positions);
    }
    if (settings.symmetry > 0) make_symmetric(kit, problem.active, out.pose, settings.symmetry, out.positions);
    seconds["follow"] = clock.lap();
    progress.say(0.98, "Measuring");
    out.figures =
        figures_of(input, problem, *out.cache.creases, out.cache.likely.get(), out.positions, &out.distances);
    out.guessed = guessed_places(problem, *out.cache.creases, out.cache.likely.get(), out.distances);
    seconds["wrap_factor"] = wrapped->times.factor;
    seconds["wrap_solve"] = wrapped->times.solve;
    seconds["wrap_query"] = wrapped->times.query;
    seconds["measure"] = clock.lap();
    out.figures.seconds = seconds;
    out.figures.repaired_vertices = wrapped->repaired_vertices;
    out.times = wrapped->times;
    progress.say(1, "Done");
    return out;
}

Status fill_fit_cache(const FitInput& input, const Similarity& to_kit, FitCache& cache) {
    tbb::parallel_invoke(
        [&] {
            if (cache.surface || !input.source) return;
            const auto ignored = never_matched(input, to_kit);
            auto surface = std::make_shared<SourceSurface>(prepare_source(*input.source, to_kit, &ignored));
            surface->averaged = std::make_shared<SourceSurface::Denoised>();
            cache.surface = surface;
        },
        [&] {
            if (cache.creases) return;
            const std::vector<double> fade = head_fade(*input.kit, input.settings.neck_band_mm);
            cache.creases = std::make_shared<BaseCreases>(
                find_creases(*input.kit, moving_vertices(*input.kit, input.settings.part, fade)));
        });
    if (input.settings.use_surface && cache.surface->triangles.size() < kLeastTriangles) {
        return Error{ErrorCode::DegenerateInput,
                     "The source has only " + std::to_string(cache.surface->triangles.size()) +
                         " usable triangles; that is no surface to fit to. Load the whole scan."};
    }
    return Done{};
}

void make_symmetric(const BaseKit& kit, const VertexMask& moving, const std::optional<Pose>& pose, double amount,
                    Points& positions) {
    const Points rest = pose ? unposed(positions, kit.joints, kit.weights, *pose) : positions;
    Points even = rest;
    const auto& skin = kit.part("skin")->vertices;
    VertexMask held(positions.size(), 0);
    for (const Index v : skin) held[v] = !moving[v];
    for (Index v = 0; v < rest.size(); ++v) {
        const Index m = kit.mirror[v];
        if (held[v] || held[m]) continue;
        const Vec3 other(-rest[m].x(), rest[m].y(), rest[m].z());
        even[v] += 0.5 * amount * (other - rest[v]);
    }
    positions = pose ? posed_again(even, positions, kit.joints, kit.weights, *pose) : even;
}

Result<FitFigures> measure_again(const FitInput& input, const Similarity& source_to_kit,
                                 const std::optional<Pose>& pose, const Points& positions,
                                 std::vector<float>* distances, const Progress& progress) {
    const auto base_points = input.base_points.empty() ? input.kit->landmarks : input.base_points;
    progress.say(0, "Measuring");
    FitCache cache;
    if (auto ok = fill_fit_cache(input, source_to_kit, cache); !ok) return ok.error();
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    std::vector<std::string> notes;
    WrapProblem problem =
        make_problem(input, base_points, source_to_kit, input.settings.use_surface ? cache.surface.get() : nullptr,
                     *cache.creases, notes);
    const auto likely = likely_for(input, problem, pose, source_to_kit);
    leave_open_ends(likely ? likely->positions : input.kit->mesh.positions, problem);
    FitFigures out = figures_of(input, problem, *cache.creases, likely.get(), positions, distances);
    progress.say(1, "Done");
    return out;
}

}  // namespace veld
