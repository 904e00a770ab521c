#pragma once
// Points tied to a surface, which go along when it changes its shape: each by the closest place, with its offset from
// there turned and stretched as the surface around that place is.
#include <optional>

#include "core/spatial/surface_query.h"

namespace veld {

struct SurfaceTie {
    Index triangle = kNone;  // kNone: no place within reach, the point stays
    std::array<double, 3> barycentric{0, 0, 0};
    Vec3 offset = Vec3::Zero();  // from the place to the point, at rest
    double distance = 0;         // its length
};

class SurfaceTies {
 public:
    // rest: the surface's positions when the points were tied. normals: null, or per point a unit direction: only
    // triangles that look the same way (to some degree) count; where there is none, any does.
    // Keeps `triangles` by reference.
    SurfaceTies(const Points& points, const Points* normals, Points rest, const std::vector<Triangle>& triangles,
                double reach);

    Points moved(const Points& now) const;
    const std::vector<SurfaceTie>& ties() const { return ties_; }

 private:
    Points points_, rest_;
    const std::vector<Triangle>& triangles_;
    std::vector<SurfaceTie> ties_;
};

}  // namespace veld
