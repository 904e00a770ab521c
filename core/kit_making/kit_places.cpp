#include "core/kit_making/kit_places.h"

#include "core/kit/kit_surface.h"
#include "core/landmark/surface_pick.h"

namespace veld {

KitPlaces::KitPlaces(const BaseKit& kit) : kit_(kit) {
    FaceMask eye(kit.mesh.face_count(), 0);
    for (const KitPart& part : kit.parts) {
        if (!part.name.starts_with("eye_")) continue;
        for (const Index f : faces_of(part)) eye[f] = 1;
    }
    const KitPart& skin = *kit.part("skin");
    for (Index t = 0; t < kit.triangulation.triangles.size(); ++t) {
        const Index f = kit.triangulation.triangle_face[t];
        if (!eye[f] && !skin.has_face(f)) continue;
        triangles_[eye[f]].push_back(kit.triangulation.triangles[t]);
        fan_[eye[f]].push_back(t);
    }
    if (triangles_[1].empty()) triangles_[1] = triangles_[0], fan_[1] = fan_[0];
    for (int i = 0; i < 2; ++i) query_[i] = std::make_unique<SurfaceQuery>(kit.mesh.positions, triangles_[i]);
}

std::optional<SurfacePoint> KitPlaces::place(const Vec3& p, bool on_eye, double reach_mm) const {
    SurfaceHit hit = query_[on_eye]->closest(p, reach_mm);
    if (!hit) return {};
    hit.triangle = fan_[on_eye][hit.triangle];
    return surface_point(kit_.triangulation, hit);
}

}  // namespace veld
