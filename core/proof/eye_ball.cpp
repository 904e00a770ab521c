#include "core/proof/eye_ball.h"

#include "core/fit/lids.h"

namespace veld {

EyeBall::EyeBall(const BaseKit& kit, const KitEye& eye, const Points& shape) : shape_(shape) {
    const KitPart* part = kit.part(eye.part);
    if (!part) return;
    for (std::size_t t = 0; t < kit.triangulation.triangles.size(); ++t)
        if (part->has_face(kit.triangulation.triangle_face[t])) triangles_.push_back(kit.triangulation.triangles[t]);
    const auto seat = eye_seat(kit, eye, shape);
    if (!seat || triangles_.empty()) return;
    centre_ = (*seat)(eye.centre), radius_ = seat->scale * eye.radius, scale_ = seat->scale;
    query_ = std::make_unique<SurfaceQuery>(shape_, triangles_);
}

double EyeBall::outside(const Vec3& p) const {
    const SurfaceHit hit = query_->closest(p, 2 * radius_ + scale_ * kNearEyeMm);
    if (!hit) return (p - centre_).norm() - radius_;
    return (p - hit.position).dot(hit.position - centre_) >= 0 ? hit.distance : -hit.distance;
}

}  // namespace veld
