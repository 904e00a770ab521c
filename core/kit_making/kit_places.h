#pragma once
// Where a point is on a base: on its skin, or on its eyes.
#include "core/kit/base_kit.h"
#include "core/spatial/surface_query.h"

namespace veld {

class KitPlaces {
 public:
    explicit KitPlaces(const BaseKit& kit);  // which must outlive it
    // None: nothing is within reach. on_eye: on an eye's part, where there is one.
    std::optional<SurfacePoint> place(const Vec3& p, bool on_eye, double reach_mm) const;

 private:
    const BaseKit& kit_;
    std::vector<Triangle> triangles_[2];  // skin, eyes
    std::vector<Index> fan_[2];           // parallel: of the kit's triangulation
    std::unique_ptr<SurfaceQuery> query_[2];
};

}  // namespace veld
