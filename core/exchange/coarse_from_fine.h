#pragma once
// Subdivision taken back.
#include "core/mesh/subdivide.h"

namespace veld {

// Base-level places whose refined ones are nearest to those that came back, by least squares: exact when the mesh was
// only subdivided. sum, count: per refined vertex, what came back for it, mm; those without any are left free.
// base: where the base has them. Fails when the system cannot be solved.
Result<Points> coarse_from_fine(const Subdivided& fine, const std::vector<Vec3>& sum, const std::vector<Index>& count,
                                const Points& base);

}  // namespace veld
