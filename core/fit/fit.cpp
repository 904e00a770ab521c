#include "core/fit/fit.h"

#include <chrono>
#include <cmath>
#include <queue>

#include "core/fit/articulate.h"
#include "core/fit/floor.h"
#include "core/fit/follow.h"
#include "core/mesh/topology.h"

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

// Regions of the skin that no camera sees: they keep their shape and follow their rims.
constexpr const char* kHidden[] = {"socket_l", "socket_r", "mouth_inner", "mouth_in", "nostril_inside",
                                   "nostril_in_l", "nostril_in_r"};

constexpr double kCreaseReachMm = 25.0;   // what stands nearer than this hides a place
constexpr double kFadeSmoothMm = 30.0;    // bending length at the neck seam
constexpr double kContactGapMm = 2.5;
constexpr double kMeasureMm = 4.0;        // scale of the matches that figures are made of

// Skin that is hardly seen from outside is not matched; sheets face to face are tied.
void apply_creases(const BaseKit& kit, WrapProblem& problem) {
    std::vector<Triangle> solid;
    for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index face = kit.triangulation.triangle_face[t];
        bool lash = false;
        for (const KitPart& part : kit.parts) lash |= part.name.starts_with("lash") && face >= part.first_face && face < part.first_face + part.face_count;
        if (!lash) solid.push_back(kit.triangulation.triangles[t]);
    }
    const std::vector<double> open = openness(kit.mesh.positions, solid, problem.active, kCreaseReachMm);
    for (std::size_t v = 0; v < problem.match.size(); ++v) {
        const double t = std::clamp((open[v] - 0.18) / 0.22, 0.0, 1.0);
        problem.match[v] *= t * t * (3 - 2 * t);
    }
    for (const ContactPair& c : contact_pairs(kit.mesh.positions, face_triangles(kit.mesh, problem.faces), open, kContactGapMm, 0.5)) {
        if (problem.active[c.vertex]) problem.contacts.push_back(c);
    }
}

void apply_regions(const BaseKit& kit, const FitSettings& settings, WrapProblem& problem, std::vector<std::string>& notes) {
    for (const auto& [name, setting] : settings.regions) {
        const std::vector<Index>& region = kit.region(name);
        if (region.empty()) notes.push_back("The kit has no region '" + name + "'; its setting was not used.");
        for (Index v : region) {
            problem.match[v] *= setting.match;
            problem.stiffness[v] *= std::max(setting.stiffness, 1e-3);
        }
    }
}

WrapProblem make_problem(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                         const Similarity& to_kit, const SourceSurface& source, std::vector<std::string>& notes) {
    const BaseKit& kit = *input.kit;
    const FitSettings& settings = input.settings;
    WrapProblem problem;
    problem.base = &kit.mesh;
    problem.source = &source;
    const KitPart& skin = *kit.part("skin");
    for (Index f = skin.first_face; f < skin.first_face + skin.face_count; ++f) problem.faces.push_back(f);
    const std::size_t count = kit.mesh.positions.size();
    problem.active.assign(count, 0);
    problem.match.assign(count, 0.0);
    problem.stiffness.assign(count, 1.0);
    problem.least_smooth.assign(count, 0.0);
    const std::vector<double> fade = head_fade(kit, settings.neck_band_mm);
    for (Index v : skin.vertices) {
        const double m = settings.part == FitPart::All ? 1.0 : settings.part == FitPart::Head ? fade[v] : (fade[v] > 0 ? 0.0 : 1.0);
        problem.active[v] = settings.part == FitPart::All || m > 0;
        problem.match[v] = m;
        // the fade is one of stiffness too: a soft surface would copy the neck's every fold down to the seam
        if (settings.part == FitPart::Head) problem.least_smooth[v] = kFadeSmoothMm * (1 - fade[v]);
    }
    if (settings.part == FitPart::Body) {
        for (Index v : kit.neck_ring) problem.active[v] = 0;
    }
    for (const char* name : kHidden) {
        for (Index v : kit.region(name)) problem.match[v] = 0;
    }
    apply_creases(kit, problem);
    apply_regions(kit, settings, problem, notes);
    for (const auto& [name, p] : input.landmarks.points) {
        const auto at = base_points.find(name);
        if (at == base_points.end() || !places_part(name, settings.part)) continue;
        const bool pupil = name.starts_with("pupil");  // lies on the eyeball, which is no skin
        if (!pupil && problem.active[at->second.vertices[0]]) {
            const double weight = name == "cervicale" && settings.part == FitPart::Head ? 0.05 : 1.0;
            problem.points.push_back({name, at->second, to_kit(p), weight * trust_weight(input.landmarks.trust_of(name))});
        }
    }
    if (settings.use_curves && settings.curve_strength > 0) {
        for (const auto& [name, line] : input.landmarks.curves) {
            const auto& curves = input.base_curves.empty() ? kit.curves : input.base_curves;
            const auto at = curves.find(name);
            if (at == curves.end() || line.size() < 2 || !problem.active[at->second.front().vertices[0]]) continue;
            CurvePull pull{at->second, {}, settings.curve_strength * trust_weight(input.landmarks.trust_of(name))};
            for (const Vec3& p : line) pull.target.push_back(to_kit(p));
            problem.curves.push_back(std::move(pull));
        }
    }
    return problem;
}

std::vector<Index> icp_vertices(const BaseKit& kit, FitPart part) {
    const std::vector<Index>& face = kit.region("face");
    return part == FitPart::Head && !face.empty() ? face : kit.part("skin")->vertices;
}

}  // namespace

std::vector<double> head_fade(const BaseKit& kit, double band_mm) {
    // shortest way along the edges from the neck ring, into the head only [Dijkstra 1959]
    const std::size_t count = kit.mesh.positions.size();
    std::vector<double> distance(count, std::numeric_limits<double>::infinity());
    std::vector<char> head(count, 0);
    for (Index v : kit.region("head_skin")) head[v] = 1;
    std::priority_queue<std::pair<double, Index>, std::vector<std::pair<double, Index>>, std::greater<>> open;
    for (Index v : kit.neck_ring) {
        distance[v] = 0;
        open.emplace(0.0, v);
    }
    const Adjacency next = vertex_neighbours(kit.triangulation.triangles, kit.mesh.vertex_count());
    while (!open.empty()) {
        const auto [d, v] = open.top();
        open.pop();
        if (d > distance[v]) continue;
        for (const Index* j = next.begin(v); j != next.end(v); ++j) {
            const double through = d + (kit.mesh.positions[*j] - kit.mesh.positions[v]).norm();
            if (!head[*j] || through >= distance[*j]) continue;
            distance[*j] = through;
            open.emplace(through, *j);
        }
    }
    std::vector<double> fade(count, 0.0);
    for (std::size_t v = 0; v < count; ++v) {
        if (!head[v]) continue;
        const double t = std::min(distance[v] / band_mm, 1.0);
        fade[v] = t * t * (3 - 2 * t);
    }
    return fade;
}

namespace {

// What a figure stands on is no part of it.
std::vector<std::uint8_t> never_matched(const FitInput& input, const Similarity& to_kit) {
    if (input.settings.part != FitPart::Head) return ignored_with_floor(*input.source, to_kit, input.ignored);
    return input.ignored ? *input.ignored : std::vector<std::uint8_t>(input.source->positions.size(), 0);
}

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

Result<FitResult> fit_on(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, FitResult out, Clock& clock, const Progress& progress) {
    const BaseKit& kit = *input.kit;
    const auto ignored = never_matched(input, out.placement.source_to_kit);
    const SourceSurface source = prepare_source(*input.source, out.placement.source_to_kit, &ignored);
    if (source.crumb_count > 0) out.notes.push_back(std::to_string(source.crumb_count) + " small loose pieces of the source were not matched.");
    out.figures.seconds["place"] = clock.lap();
    const WrapProblem problem = make_problem(input, base_points, out.placement.source_to_kit, source, out.notes);
    auto wrapped = wrap_surface(problem, input.settings, progress);
    if (!wrapped) return wrapped.error();
    const double wrap_seconds = clock.lap();
    out.positions = std::move(wrapped->positions);
    if (input.settings.part != FitPart::Body) follow_parts(kit, &source, out.positions);
    const double follow_seconds = clock.lap();
    progress.say(0.98, "Measuring");
    const auto matches = match_to_source(problem, problem.match, out.positions, kMeasureMm, input.settings.max_angle_degrees);
    auto seconds = out.figures.seconds;
    out.figures = measure_fit(kit, problem, out.positions, matches, &out.distances);
    seconds["wrap"] = wrap_seconds;
    seconds["wrap_factor"] = wrapped->times.factor;
    seconds["wrap_solve"] = wrapped->times.solve;
    seconds["wrap_query"] = wrapped->times.query;
    seconds["follow"] = follow_seconds;
    seconds["measure"] = clock.lap();
    out.figures.seconds = seconds;
    out.figures.repaired_vertices = wrapped->repaired_vertices;
    out.times = wrapped->times;
    progress.say(1, "Done");
    return out;
}

}  // namespace

Result<FitResult> run_fit(const FitInput& input, const Progress& progress) {
    const BaseKit& kit = *input.kit;
    if (auto ok = check_mesh(*input.source, "The source"); !ok) return ok.error();
    Clock clock;
    FitResult out;
    out.settings = input.settings;
    const auto base_points = input.base_points.empty() ? kit.landmarks : input.base_points;
    progress.say(0, "Placing");
    PlaceInput place{&kit, base_points, input.landmarks, input.unit, input.settings.part, input.settings.keep_true_size};
    auto placement = place_by_landmarks(place);
    if (!placement) return placement.error();
    out.placement = *placement;
    out.notes = out.placement.notes;
    {
        const auto ignored = never_matched(input, out.placement.source_to_kit);
        const SourceSurface first = prepare_source(*input.source, out.placement.source_to_kit, &ignored);
        if (first.triangles.size() < 20) {
            return Error{ErrorCode::DegenerateInput, "The source has only " + std::to_string(first.triangles.size()) +
                                                         " usable triangles; that is no surface to fit to. Load the whole scan."};
        }
        if (input.settings.part == FitPart::All && input.settings.take_pose_out) {
            if (auto ok = take_pose(input, base_points, first, out, progress); !ok) return ok.error();
        }
        if (!out.pose) {
            const Similarity better = refine_by_icp(kit, icp_vertices(kit, input.settings.part), first, !input.settings.keep_true_size, progress);
            out.placement.source_to_kit = better * out.placement.source_to_kit;
            out.placement.size_ratio *= better.scale;
        }
    }
    if (!out.pose) return fit_on(input, base_points, std::move(out), clock, progress);
    const BaseKit posed = posed_kit(kit, *out.pose);
    FitInput bent = input;
    bent.kit = &posed;
    return fit_on(bent, base_points, std::move(out), clock, progress);
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
    const auto ignored = never_matched(input, source_to_kit);
    const SourceSurface source = prepare_source(*input.source, source_to_kit, &ignored);
    if (progress.is_cancelled()) return Error{ErrorCode::Cancelled, "Cancelled."};
    std::vector<std::string> notes;
    const WrapProblem problem = make_problem(input, base_points, source_to_kit, source, notes);
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
