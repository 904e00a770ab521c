#pragma once
// Parts of a kit's surface that several rooms ask for.
#include "core/io/base_kit.h"

namespace veld {

// What hides what lies behind it: everything but the lashes. As numbers of the kit's triangulation, and as triangles.
std::vector<Index> solid_fans(const BaseKit& kit);
std::vector<Triangle> solid_triangles(const BaseKit& kit);

}  // namespace veld
