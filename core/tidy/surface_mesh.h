#pragma once
// The one place where CGAL's mesh type is selected; included by few files, for it compiles slowly.
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Surface_mesh.h>

#include "core/base/types.h"

namespace veld {

using CgalKernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using CgalMesh = CGAL::Surface_mesh<CgalKernel::Point_3>;

inline CgalKernel::Point_3 to_cgal(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
inline Vec3 from_cgal(const CgalKernel::Point_3& p) { return {p.x(), p.y(), p.z()}; }

}  // namespace veld
