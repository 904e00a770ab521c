#include "core/fit/take_pose.h"

#include <algorithm>

#include "core/fit/articulate.h"
#include "core/fit/fit_placed.h"

namespace veld {
namespace {

// What of the landmarks and joints says how the figure stands.
std::vector<PosePull> marked_places(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                                    const Similarity& to_kit) {
    std::vector<PosePull> out;
    for (const auto& [name, p] : input.landmarks.points) {
        const auto at = base_points.find(name);
        const Trust trust = input.landmarks.trust_of(name);
        if (at != base_points.end() && !name.starts_with("pupil") && !unsure(trust))
            out.push_back({at->second, to_kit(p), trust_weight(trust)});
    }
    return out;
}

std::vector<JointPull> marked_joints(const FitInput& input, const Similarity& to_kit) {
    std::vector<JointPull> out;
    for (std::size_t j = 0; j < input.kit->joints.size(); ++j) {
        const auto mark = input.landmarks.joints.find(input.kit->joints[j].name);
        if (mark != input.landmarks.joints.end()) out.push_back({j, to_kit(mark->second.at), mark->second.by_hand});
    }
    return out;
}

// Joints that a file brings and the kit does not know.
void tell_unknown_joints(const FitInput& input, std::vector<std::string>& notes) {
    std::string unknown;
    for (const auto& [name, mark] : input.landmarks.joints) {
        const bool known = std::any_of(input.kit->joints.begin(), input.kit->joints.end(),
                                       [&, &joint_name = name](const Joint& j) { return j.name == joint_name; });
        if (!known) unknown += (unknown.empty() ? "'" : ", '") + name + "'";
    }
    if (!unknown.empty()) notes.push_back("Marked joints that the kit does not have were not used: " + unknown + ".");
}

}  // namespace

Status take_pose(const FitInput& input, const std::map<std::string, SurfacePoint>& base_points,
                 const SourceSurface& surface, FitResult& out, const Progress& progress) {
    const Similarity& to_kit = out.placement.source_to_kit;
    tell_unknown_joints(input, out.notes);
    Progress part;
    part.report = [&](double f, const std::string& what) { progress.say(0.1 * f, what); };
    part.cancelled = progress.cancelled;
    const auto bent =
        articulate(*input.kit, surface, marked_places(input, base_points, to_kit), marked_joints(input, to_kit), part);
    if (!bent && bent.error().code == ErrorCode::Cancelled)
        return Error{ErrorCode::Cancelled, "Fit cancelled; nothing was changed."};
    if (!bent) {
        out.notes.push_back("The pose was not taken out: " + bent.error().message);
        return Done{};
    }
    out.pose = bent->pose;
    if (input.settings.keep_true_size) {
        // the size stays in the figure: the skeleton and its skin grow by it
        for (Mat3& s : out.pose->stretch) s /= bent->to_kit.scale;
        out.pose->move = (out.pose->move + input.kit->joints.front().position) / bent->to_kit.scale -
                         input.kit->joints.front().position;
        return Done{};
    }
    out.placement.source_to_kit = bent->to_kit * out.placement.source_to_kit;
    out.placement.size_ratio *= bent->to_kit.scale;
    return Done{};
}

Result<std::map<std::string, JointMark>> find_joints(const FitInput& input, bool from_marks,
                                                     const Progress& progress) {
    const BaseKit& kit = *input.kit;
    if (kit.joints.empty()) return Error{ErrorCode::DegenerateInput, "The kit has no joints."};
    const auto base_points = input.base_points.empty() ? kit.landmarks : input.base_points;
    auto placed = place_by_landmarks({&kit, base_points, input.landmarks, input.unit, FitPart::All, true});
    if (!placed) return placed.error();
    const Similarity to_kit = placed->source_to_kit;
    FitCache cache;
    cache.creases = std::make_shared<BaseCreases>();  // nothing is wrapped here
    if (auto ok = fill_fit_cache(input, to_kit, cache); !ok) return ok.error();
    const std::vector<JointPull> known = marked_joints(input, to_kit);
    const auto bent = articulate(kit, *cache.surface, marked_places(input, base_points, to_kit),
                                 from_marks ? known : std::vector<JointPull>(), progress);
    if (!bent) return bent.error();
    const Similarity back = (bent->to_kit * to_kit).inverse();
    const PosedJoints posed = pose_joints(kit.joints, bent->pose);
    std::map<std::string, JointMark> out;
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        const auto mark = input.landmarks.joints.find(kit.joints[j].name);
        const bool kept = from_marks && mark != input.landmarks.joints.end() && mark->second.by_hand;
        out[kit.joints[j].name] = kept ? mark->second : JointMark{back(posed.place[j]), false};
    }
    return out;
}

}  // namespace veld
