#include "core/fit/fit.h"

#include <cmath>

#include "core/base/stopwatch.h"
#include "core/fit/articulate.h"
#include "core/fit/find_pose.h"
#include "core/fit/fit_placed.h"
#include "core/fit/jaw.h"
#include "core/fit/rest_doubt.h"
#include "core/fit/rest_repair.h"
#include "core/fit/take_pose.h"

namespace veld {
namespace {

constexpr double kLipsTrusted = 0.025;  // weight of marked lips; below it (12 mm off, perhaps) they open no mouth

VertexIndices icp_vertices(const BaseKit& kit, FitPart part) {
    const VertexIndices& face = kit.region("face");
    return part == FitPart::Head && !face.empty() ? face : kit.part("skin")->vertices;
}

// Once vertices have places, the pose is told by them; what is measured against the posed kit is measured again. What
// was made symmetric is so in the pose that it has.
Status settle(const FitInput& input, FitResult& fit, const Progress& progress) {
    const BaseKit& kit = *input.kit;
    if (fit.settings.symmetry > 0) {
        fit.figures.rest = rest_doubts(kit, fit.positions, *fit.pose, fit.distances);
        return Done{};
    }
    fit.pose = settled_pose(kit, fit.positions, *fit.pose);
    const RestRepair mended = repair_rest(kit, *fit.pose, fit.positions);
    if (!mended.vertices.empty())
        fit.notes.push_back("Once the pose was out the skin cut itself in " + std::to_string(mended.cuts_before) +
                            " places; " + std::to_string(mended.cuts_before - mended.cuts_after) +
                            " were mended, with " + std::to_string(mended.vertices.size()) +
                            " vertices as their surroundings have it.");
    const BaseKit posed = posed_kit(kit, *fit.pose);
    FitInput bent = input;
    bent.kit = &posed;
    Progress quiet;
    quiet.cancelled = progress.cancelled;
    auto figures = measure_again(bent, fit.placement.source_to_kit, fit.pose, fit.positions, &fit.distances, quiet);
    if (!figures) return figures.error();
    figures->rest = rest_doubts(kit, fit.positions, *fit.pose, fit.distances);
    figures->seconds = fit.figures.seconds, figures->repaired_vertices = fit.figures.repaired_vertices;
    fit.figures = std::move(*figures);
    fit.cache.creases = nullptr;  // they were those of the pose before
    return Done{};
}

// An open mouth: how far the kit's jaw must turn, by the lips that are marked.
double marked_jaw(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                  const FitResult& out) {
    if (input.jaw_degrees) return *input.jaw_degrees;
    // what only shut lips have says that they are shut, however full they are
    if (input.landmarks.points.contains("stomion") || input.landmarks.curves.contains("mouth_line")) return 0;
    std::map<std::string, Vec3> marked;
    for (const auto& [name, p] : input.landmarks.points) {
        if (trust_weight(input.landmarks.trust_of(name)) > kLipsTrusted) marked[name] = out.placement.source_to_kit(p);
    }
    return jaw_turn_of(*input.kit, base_points, marked);
}

// Lids that hang or are shut: how far the kit's must come down, by those that are marked.
LidsShut marked_lids(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points) {
    if (input.lids) return *input.lids;
    std::map<std::string, Vec3> marked;
    for (const auto& [name, p] : input.landmarks.points) {
        if (!unsure(input.landmarks.trust_of(name))) marked[name] = p;
    }
    return lids_of(*input.kit, base_points, marked);
}

// The base's jaw and lids as the source's are.
void take_expression(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points, FitResult& out) {
    const double degrees = marked_jaw(input, base_points, out);
    const LidsShut lids = marked_lids(input, base_points);
    if (!(degrees > 0) && lids == LidsShut{0, 0}) return;
    out.pose = jaw_pose(*input.kit, degrees);
    out.pose->lids = lids;
    if (degrees > 0)
        out.notes.push_back("The mouth is open: the base's jaw was turned by " + std::to_string(std::lround(degrees)) +
                            " degrees first" +
                            (input.settings.shut_mouth ? ", and the shape is handed out with the mouth shut." : "."));
    const auto percent = [](double share) { return std::to_string(std::lround(100 * share)) + " %"; };
    if (lids != LidsShut{0, 0})
        out.notes.push_back("The eyes are not wide open: the base's lids were shut by " + percent(lids[0]) +
                            " on the right and " + percent(lids[1]) + " on the left first" +
                            (input.settings.shut_mouth ? ", and the shape is handed out with the eyes open." : "."));
}

}  // namespace

Result<FitResult> run_fit(const FitInput& input, const Progress& progress) {
    const BaseKit& kit = *input.kit;
    const FitSettings& settings = input.settings;
    if (!input.source && settings.use_surface)
        return Error{ErrorCode::BadInput, "There is no source to fit to. Give one, or fit by landmarks alone."};
    if (input.source) {
        if (auto ok = check_mesh(*input.source, "The source"); !ok) return ok.error();
    }
    Stopwatch clock;
    FitResult out;
    out.settings = settings;
    const auto base_points = input.base_points.empty() ? kit.landmarks : input.base_points;
    progress.say(0, "Placing");
    PlaceInput place{&kit, base_points, input.landmarks, input.unit, settings.part, settings.keep_true_size};
    auto placement = place_by_landmarks(place);
    if (!placement) return placement.error();
    out.placement = *placement;
    out.notes = out.placement.notes;
    if (settings.part == FitPart::Head) take_expression(input, base_points, out);
    const bool jaw = out.pose.has_value();
    const BaseKit opened = jaw ? posed_kit(kit, *out.pose) : BaseKit();
    FitInput as_posed = input;
    if (jaw) as_posed.kit = &opened;
    if (settings.use_surface) {
        FitCache first;
        // a bent kit has creases of its own, which come later
        const bool bends = settings.part == FitPart::All && settings.take_pose_out;
        if (bends) first.creases = std::make_shared<BaseCreases>();
        if (auto ok = fill_fit_cache(as_posed, out.placement.source_to_kit, first); !ok) return ok.error();
        if (bends) {
            if (auto ok = take_pose(input, base_points, *first.surface, out, progress); !ok) return ok.error();
        }
        if (!bends) out.cache.creases = first.creases;
        if (!out.pose || jaw) {
            const Similarity better = refine_by_icp(*as_posed.kit, icp_vertices(kit, settings.part), *first.surface,
                                                    !settings.keep_true_size, progress);
            // what is left out of a head does not depend on where it stands; the floor of a figure does
            if (settings.part == FitPart::Head)
                out.cache.surface = std::make_shared<SourceSurface>(moved_on(*first.surface, better));
            out.placement.source_to_kit = better * out.placement.source_to_kit;
            out.placement.size_ratio *= better.scale;
        }
    } else if (settings.part == FitPart::All && settings.take_pose_out) {
        out.notes.push_back("The pose was not taken out: that needs the source's surface.");
    }
    out.figures.seconds["place"] = clock.lap();
    if (!out.pose || jaw) return fit_placed(as_posed, base_points, std::move(out), nullptr, progress);
    const BaseKit posed = posed_kit(kit, *out.pose);
    FitInput bent = input;
    bent.kit = &posed;
    auto fitted = fit_placed(bent, base_points, std::move(out), nullptr, progress);
    if (!fitted) return fitted;
    if (auto ok = settle(input, *fitted, progress); !ok) return ok.error();
    return fitted;
}

Points at_rest(const BaseKit& kit, const Points& positions, const std::optional<Pose>& pose, bool shut_mouth) {
    if (!pose) return positions;
    if (of_head(kit, *pose)) {
        if (!shut_mouth) return positions;
        const Points open = move_lids(kit, positions, {-pose->lids[0], -pose->lids[1]});
        return jaw_of(kit, *pose) > 0 ? mouth_shut(kit, open, *pose) : open;
    }
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

Points in_source_frame(const FitResult& fit) {
    const Similarity back = fit.placement.source_to_kit.inverse();
    Points out;
    out.reserve(fit.positions.size());
    for (const Vec3& p : fit.positions) out.push_back(back(p));
    return out;
}

}  // namespace veld
