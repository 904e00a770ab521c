#pragma once
// The edges of the lids on the surface: a lid stands before the eyeball by its thickness (follow_edge.h).
#include <optional>

#include "core/detect/follow_edge.h"
#include "core/spatial/surface_query.h"

namespace veld {

struct EyeFrame {
    Vec3 centre = Vec3::Zero();  // of the eyeball; the face looks along +Z
    double radius = 12;          // mm
    bool left = false;
    // degrees out (to the subject's own side) and up
    std::array<double, 2> angles(const Vec3& p) const;
    Vec3 direction(double out, double up) const;  // of degrees; unit
    // Distance of the surface from the centre that way, kNotSeen where it is not near the ball.
    double height(const SurfaceQuery& surface, double out, double up) const;
};

// guess: the edge from one corner of the eye to the other. Nothing where no step runs along it: shut, fused, covered.
std::optional<Edge> follow_lid(const SurfaceQuery& surface, const EyeFrame& eye, const Points& guess, bool upper);

}  // namespace veld
