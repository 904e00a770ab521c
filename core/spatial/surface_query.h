#pragma once
// Closest points and rays on a triangle surface.
//
// Embree walks the tree (single precision, about the surface's own centre); the point on the
// triangle is computed in double precision [Ericson 2005, 5.1.5], so results are exact to rounding
// and do not depend on the number of threads.
#include <memory>

#include "core/base/types.h"

namespace veld {

struct SurfaceHit {
    Index triangle = kNone;  // kNone: nothing within reach
    Vec3 position = Vec3::Zero();
    std::array<double, 3> barycentric{0, 0, 0};
    double distance = std::numeric_limits<double>::infinity();
    explicit operator bool() const { return triangle != kNone; }
};

// Which triangles a closest-point query may see.
struct FacingFilter {
    Vec3 normal = Vec3::Zero();  // unit
    double min_cosine = -2;      // triangle normal . normal must be at least this
};

class SurfaceQuery {
 public:
    // Keeps where the arrays' elements are: they must outlive the query object, but may be moved to another vector.
    SurfaceQuery(const Points& positions, const std::vector<Triangle>& triangles);
    SurfaceQuery(const Points&& positions, const std::vector<Triangle>& triangles) = delete;
    SurfaceQuery(const Points& positions, const std::vector<Triangle>&& triangles) = delete;
    SurfaceQuery(const Points&& positions, const std::vector<Triangle>&& triangles) = delete;
    ~SurfaceQuery();
    SurfaceQuery(SurfaceQuery&&) noexcept;
    SurfaceQuery& operator=(SurfaceQuery&&) noexcept;

    SurfaceHit closest(const Vec3& point, double max_distance, const FacingFilter* facing = nullptr) const;
    // direction need not be unit; distance is along it, in mm
    SurfaceHit first_hit(const Vec3& origin, const Vec3& direction) const;
    // the same for those who see only the outside: triangles that turn their back are looked through
    SurfaceHit first_front_hit(const Vec3& origin, const Vec3& direction) const;
    // Of what the line through `point` along `direction` (unit) meets within reach, before and behind, the nearest
    // whose triangle's normal . direction is at least min_cosine; distance: from point, negative when it lies behind.
    SurfaceHit nearest_along(const Vec3& point, const Vec3& direction, double reach, double min_cosine) const;
    const Points& triangle_normals() const;  // unit; zero for degenerate triangles

 private:
    struct Inside;
    std::unique_ptr<Inside> inside_;
};

SurfaceHit closest_on_triangle(const Vec3& p, const Vec3& a, const Vec3& b, const Vec3& c);

}  // namespace veld
