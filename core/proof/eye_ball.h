#pragma once
// How far skin lies outside an eyeball.
#include <memory>

#include "core/kit/base_kit.h"
#include "core/spatial/surface_query.h"

namespace veld {

// Skin this near an eyeball of the base is looked at.
inline constexpr double kNearEyeMm = 4;

class EyeBall {
 public:
    // shape: every vertex of the base; kept, it must outlive this.
    EyeBall(const BaseKit& kit, const KitEye& eye, const Points& shape);
    // The kit has the eye's part, and it is whole in the shape. Nothing else may be asked where it is not.
    bool there() const { return query_ != nullptr; }
    bool near(const Vec3& p) const { return there() && (p - centre_).norm() < radius_ + scale_ * kNearEyeMm; }
    double outside(const Vec3& p) const;  // mm, below 0: inside
    Vec3 way_out(const Vec3& p) const { return (p - centre_).normalized(); }
    const Vec3& centre() const { return centre_; }
    double radius() const { return radius_; }

 private:
    const Points& shape_;
    std::vector<Triangle> triangles_;
    std::unique_ptr<SurfaceQuery> query_;
    Vec3 centre_ = Vec3::Zero();
    double radius_ = 0, scale_ = 1;
};

}  // namespace veld
