#include "core/kit_making/edit_kit.h"

#include <algorithm>

#include "core/kit/lips.h"
#include "core/kit_making/kit_places.h"
#include "core/kit_making/own_rig.h"
#include "core/kit_making/reduced.h"

namespace veld {

namespace {

Status set_tie(const std::string& name, const JointTie& tie, BaseKit& kit) {
    const bool known =
        std::any_of(kit.joints.begin(), kit.joints.end(), [&](const Joint& joint) { return joint.name == name; });
    if (!known) return Error{ErrorCode::BadInput, "The kit has no joint '" + name + "'."};
    if (tie.vertex.size() != tie.weight.size() ||
        std::any_of(tie.vertex.begin(), tie.vertex.end(), [&](Index v) { return v >= kit.mesh.positions.size(); }))
        return Error{ErrorCode::BadInput, "The tie of '" + name + "' names vertices that the base does not have."};
    kit.joint_ties.erase(name);
    if (!tie.vertex.empty()) kit.joint_ties[name] = tie;
    return Done{};
}

}  // namespace

Result<BaseKit> edited_kit(const BaseKit& kit, const KitEdits& edits) {
    BaseKit out = kit;
    for (const auto& [name, vertices] : edits.regions) {
        if (std::any_of(vertices.begin(), vertices.end(), [&](Index v) { return v >= kit.mesh.positions.size(); }))
            return Error{ErrorCode::BadInput, "The region '" + name + "' names vertices that the base does not have."};
        out.regions[name] = vertices;
    }
    for (const auto& [name, tie] : edits.ties) {
        if (auto ok = set_tie(name, tie, out); !ok) return ok.error();
    }
    for (const std::string& name : edits.looked_at) out.doubts.erase(name);
    for (const auto& [name, rule] : edits.rules) {
        const auto part =
            std::find_if(out.parts.begin(), out.parts.end(), [&](const KitPart& p) { return p.name == name; });
        const auto told = part_rule_from_name(rule);
        if (part == out.parts.end() || name == "skin")
            return Error{ErrorCode::BadInput, "The kit has no part '" + name + "' that goes with the skin."};
        if (!told) {
            std::string known;
            for (const PartRule r : kAllPartRules)
                known += (known.empty() ? "" : ", ") + std::string(part_rule_name(r));
            return Error{ErrorCode::BadInput,
                         "A part goes with one of " + known + "; '" + rule + "' is none of them."};
        }
        part->told = told;
    }
    for (const auto& [name, path] : edits.reduced) {
        // an edit made before is in the kit already
        if (std::any_of(out.reduced.begin(), out.reduced.end(),
                        [&](const KitReduced& r) { return r.name == name && r.file == path; }))
            continue;
        const std::size_t before = out.reduced.size();
        std::erase_if(out.reduced, [&](const KitReduced& r) { return r.name == name; });
        if (path.empty()) {
            if (out.reduced.size() == before)
                return Error{ErrorCode::BadInput, "The kit has no reduced version '" + name + "'."};
            continue;
        }
        auto reduced = tie_reduced(out, path, name);
        if (!reduced) return reduced.error();
        out.reduced.push_back(std::move(*reduced));
    }
    std::sort(out.reduced.begin(), out.reduced.end(),
              [](const KitReduced& a, const KitReduced& b) { return a.vertices > b.vertices; });
    if (!edits.roles.empty()) {
        if (auto ok = set_roles(edits.roles, out); !ok) return ok.error();
    }
    return out;
}

namespace {

constexpr double kNearMm = 50;  // a landmark that lies farther from the base is of something else

}  // namespace

Status move_landmarks(const LandmarkSet& places, BaseKit& kit) {
    const KitPlaces where(kit);
    const auto far_off = [](const std::string& name) {
        return Error{ErrorCode::BadInput, "'" + name + "' lies more than " +
                                              std::to_string(static_cast<int>(kNearMm)) +
                                              " mm from the base. Landmarks are in the kit's frame, in millimetres."};
    };
    for (const auto& [name, p] : places.points) {
        const auto at = where.place(p, name.starts_with("pupil"), kNearMm);
        if (!at) return far_off(name);
        kit.landmarks[name] = *at;
        kit.by_hand.insert(name);
        kit.doubts.erase(name);
    }
    for (const auto& [name, line] : places.curves) {
        std::vector<SurfacePoint> on;
        for (const Vec3& p : line) {
            const auto at = where.place(p, false, kNearMm);
            if (!at) return far_off(name);
            on.push_back(*at);
        }
        if (on.size() < 2) continue;
        kit.curves[name] = std::move(on);
        kit.doubts.erase(name);
    }
    if (places.curves.contains("mouth_line")) {
        for (const char* name : kInnerLips) {
            if (!places.curves.contains(name)) kit.curves.erase(name);
        }
        add_inner_lips(kit);
    }
    return Done{};
}

}  // namespace veld
