#pragma once
// Parts of a kit's surface that several rooms ask for.
#include "core/io/base_kit.h"

namespace veld {

// What hides what lies behind it: everything but the lashes.
std::vector<Triangle> solid_triangles(const BaseKit& kit);

}  // namespace veld
