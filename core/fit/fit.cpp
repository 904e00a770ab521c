#include "core/fit/fit.h"

#include <tbb/parallel_invoke.h>

#include <chrono>
#include <cmath>

#include "core/fit/articulate.h"
#include "core/fit/follow.h"
#include "core/fit/problem.h"

namespace veld {
namespace {

class Clock {
   public:
    double lap() {
        const auto now = std::chrono::steady_clock::now();
        const double out = std::chrono::duration<double>(now - last_).count();
        last_ = now;
        return out;
    }

   private:
    std::chrono::steady_clock::time_point last_ = std::chrono::steady_clock::now();
};

constexpr double kMeasureMm = 4.0;        // scale of the matches that figures are made of
constexpr double kPlainSmoothMm = 20.0;   // without a surface: softer than this only copies the points' errors
constexpr std::size_t kLeastTriangles = 20;

std::vector<Index> icp_vertices(const BaseKit& kit, FitPart part) {
    const std::vector<Index>& face = kit.region("face");
    return part == FitPart::Head && !face.empty() ? face : kit.part("skin")->vertices;
}

}  // namespace

namespace {

// The kit's skeleton bent as the figure stands; the kit as it is when that cannot be done.
Status take_pose(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, const SourceSurface& surface, FitResult& out, const Progress& progress) {
    std::vector<PosePull> pulls;
    for (const auto& [name, p] : input.landmarks.points) {
        const auto at = base_points.find(name);
        if (at != base_points.end() && !name.starts_with("pupil") && !unsure(input.landmarks.trust_of(name))) pulls.push_back({at->second, out.placement.source_to_kit(p)});
    }
    Progress part;
    part.report = [&](double f, const std::string& what) { progress.say(0.1 * f, what); };
    part.cancelled = progress.cancelled;
    const auto bent = articulate(*input.kit, surface, pulls, part);
    if (!bent && bent.error().code == ErrorCode::Cancelled) return Error{ErrorCode::Cancelled, "Fit cancelled; nothing was changed."};
    if (!bent) {
        out.notes.push_back("The pose was not taken out: " + bent.error().message);
        return Done{};
    }
    out.pose = bent->pose;
    if (input.settings.keep_true_size) {
        // the size stays in the figure: the skeleton and its skin grow by it
        for (Mat3& s : out.pose->stretch) s /= bent->to_kit.scale;
        out.pose->move = (out.pose->move + input.kit->joints.front().position) / bent->to_kit.scale - input.kit->joints.front().position;
        return Done{};
    }
    out.placement.source_to_kit = bent->to_kit * out.placement.source_to_kit;
    out.placement.size_ratio *= bent->to_kit.scale;
    return Done{};
}

}  // namespace

Result<FitResult> fit_placed(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, FitResult out, const WarmWrap* warm, const Progress& progress) {
    Clock clock;
    const BaseKit& kit = *input.kit;
    const FitSettings& settings = input.settings;
    if (auto ok = lay_ground(input, out.placement.source_to_kit, out.ground); !ok) return ok.error();
    const SourceSurface* surface = settings.use_surface ? out.ground.surface.get() : nullptr;
    if (surface && surface->crumb_count > 0) out.notes.push_back(std::to_string(surface->crumb_count) + " small loose pieces of the source were not matched.");
    auto seconds = out.figures.seconds;
    seconds["place"] += clock.lap();
    const WrapProblem problem = warm ? warm->problem : make_problem(input, base_points, out.placement.source_to_kit, surface, *out.ground.creases, out.notes);
    WrapProblem part = problem;
    if (!surface) part.to = std::log(std::max(kPlainSmoothMm, settings.smooth_end_mm) / settings.smooth_start_mm) / std::log(settings.smooth_end_mm / settings.smooth_start_mm);
    if (warm) part.start = &warm->start, part.active = warm->active, part.from = warm->from, part.levels = warm->levels, part.iterations = warm->iterations;
    auto wrapped = wrap_surface(part, settings, progress);
    if (!wrapped) return wrapped.error();
    seconds["wrap"] = clock.lap();
    out.positions = std::move(wrapped->positions);
    if (settings.part != FitPart::Body) follow_parts(kit, surface, out.positions);
    if (settings.symmetry > 0) make_symmetric(kit, problem.active, out.pose, settings.symmetry, out.positions);
    seconds["follow"] = clock.lap();
    progress.say(0.98, "Measuring");
    const auto matches = match_to_source(problem, problem.match, out.positions, kMeasureMm, settings.max_angle_degrees);
    out.figures = measure_fit(kit, problem, out.positions, matches, &out.distances);
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

Status lay_ground(const FitInput& input, const Similarity& to_kit, FitGround& ground) {
    tbb::parallel_invoke(
        [&] {
            if (ground.surface || !input.source) return;
            const auto ignored = never_matched(input, to_kit);
            auto surface = std::make_shared<SourceSurface>(prepare_source(*input.source, to_kit, &ignored));
            surface->calm = std::make_shared<SourceSurface::Calm>();
            ground.surface = surface;
        },
        [&] {
            if (ground.creases) return;
            const std::vector<double> fade = head_fade(*input.kit, input.settings.neck_band_mm);
            ground.creases = std::make_shared<BaseCreases>(find_creases(*input.kit, moving_vertices(*input.kit, input.settings.part, fade)));
        });
    if (input.settings.use_surface && ground.surface->triangles.size() < kLeastTriangles) {
        return Error{ErrorCode::DegenerateInput, "The source has only " + std::to_string(ground.surface->triangles.size()) +
                                                     " usable triangles; that is no surface to fit to. Load the whole scan."};
    }
    return Done{};
}

Result<FitResult> run_fit(const FitInput& input, const Progress& progress) {
    const BaseKit& kit = *input.kit;
    const FitSettings& settings = input.settings;
    if (!input.source && settings.use_surface) return Error{ErrorCode::BadInput, "There is no source to fit to. Give one, or fit by landmarks alone."};
    if (input.source) {
        if (auto ok = check_mesh(*input.source, "The source"); !ok) return ok.error();
    }
    Clock clock;
    FitResult out;
    out.settings = settings;
    const auto base_points = input.base_points.empty() ? kit.landmarks : input.base_points;
    progress.say(0, "Placing");
    PlaceInput place{&kit, base_points, input.landmarks, input.unit, settings.part, settings.keep_true_size};
    auto placement = place_by_landmarks(place);
    if (!placement) return placement.error();
    out.placement = *placement;
    out.notes = out.placement.notes;
    if (settings.use_surface) {
        FitGround first;
        // a bent kit has creases of its own, which come later
        const bool bends = settings.part == FitPart::All && settings.take_pose_out;
        if (bends) first.creases = std::make_shared<BaseCreases>();
        if (auto ok = lay_ground(input, out.placement.source_to_kit, first); !ok) return ok.error();
        if (bends) {
            if (auto ok = take_pose(input, base_points, *first.surface, out, progress); !ok) return ok.error();
        }
        if (!bends) out.ground.creases = first.creases;
        if (!out.pose) {
            const Similarity better = refine_by_icp(kit, icp_vertices(kit, settings.part), *first.surface, !settings.keep_true_size, progress);
            // what is left out of a head does not depend on where it stands; the floor of a figure does
            if (settings.part == FitPart::Head) out.ground.surface = std::make_shared<SourceSurface>(moved_on(*first.surface, better));
            out.placement.source_to_kit = better * out.placement.source_to_kit;
            out.placement.size_ratio *= better.scale;
        }
    } else if (settings.part == FitPart::All && settings.take_pose_out) {
        out.notes.push_back("The pose was not taken out: that needs the source's surface.");
    }
    out.figures.seconds["place"] = clock.lap();
    if (!out.pose) return fit_placed(input, base_points, std::move(out), nullptr, progress);
    const BaseKit posed = posed_kit(kit, *out.pose);
    FitInput bent = input;
    bent.kit = &posed;
    return fit_placed(bent, base_points, std::move(out), nullptr, progress);
}

void make_symmetric(const BaseKit& kit, const std::vector<char>& moving, const std::optional<Pose>& pose, double amount, Points& positions) {
    const Points rest = pose ? unposed(positions, kit.joints, kit.weights, *pose) : positions;
    Points even = rest;
    const auto& skin = kit.part("skin")->vertices;
    std::vector<char> held(positions.size(), 0);
    for (const Index v : skin) held[v] = !moving[v];
    for (Index v = 0; v < rest.size(); ++v) {
        const Index m = kit.mirror[v];
        if (held[v] || held[m]) continue;
        const Vec3 other(-rest[m].x(), rest[m].y(), rest[m].z());
        even[v] += 0.5 * amount * (other - rest[v]);
    }
    positions = pose ? posed_again(even, positions, kit.joints, kit.weights, *pose) : even;
}

Points at_rest(const BaseKit& kit, const Points& positions, const std::optional<Pose>& pose) {
    if (!pose) return positions;
    Points out = unposed(positions, kit.joints, kit.weights, *pose);
    const auto lowest = [&](const Points& x) {
        double y = std::numeric_limits<double>::infinity();
        for (const Index v : kit.part("skin")->vertices) y = std::min(y, x[v].y());
        return y;
    };
    const double up = lowest(kit.mesh.positions) - lowest(out);
    for (Vec3& p : out) p.y() += up;
    return out;
}

Result<FitFigures> measure_again(const FitInput& input, const Similarity& source_to_kit, const Points& positions, std::vector<float>* distances, const Progress& progress) {
    const auto base_points = input.base_points.empty() ? input.kit->landmarks : input.base_points;
    progress.say(0, "Measuring");
    FitGround ground;
    if (auto ok = lay_ground(input, source_to_kit, ground); !ok) return ok.error();
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    std::vector<std::string> notes;
    const WrapProblem problem = make_problem(input, base_points, source_to_kit, input.settings.use_surface ? ground.surface.get() : nullptr, *ground.creases, notes);
    const auto matches = match_to_source(problem, problem.match, positions, kMeasureMm, input.settings.max_angle_degrees);
    FitFigures out = measure_fit(*input.kit, problem, positions, matches, distances);
    progress.say(1, "Done");
    return out;
}

Points in_source_frame(const FitResult& fit) {
    const Similarity back = fit.placement.source_to_kit.inverse();
    Points out;
    out.reserve(fit.positions.size());
    for (const Vec3& p : fit.positions) out.push_back(back(p));
    return out;
}

}  // namespace veld
