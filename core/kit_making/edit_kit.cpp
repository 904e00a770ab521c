#include "core/kit_making/edit_kit.h"

#include <algorithm>

#include "core/kit_making/kit_places.h"
#include "core/kit_making/own_rig.h"

namespace veld {

Result<BaseKit> edited_kit(const BaseKit& kit, const KitEdits& edits) {
    BaseKit out = kit;
    for (const auto& [name, vertices] : edits.regions) {
        if (std::any_of(vertices.begin(), vertices.end(), [&](Index v) { return v >= kit.mesh.positions.size(); }))
            return Error{ErrorCode::BadInput, "The region '" + name + "' names vertices that the base does not have."};
        out.regions[name] = vertices;
    }
    for (const std::string& name : edits.looked_at) out.doubts.erase(name);
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
    return Done{};
}

}  // namespace veld
