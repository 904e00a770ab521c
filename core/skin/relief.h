#pragma once
// How a surface is bent and how deep its small hollows are, per vertex.
#include <vector>

#include "core/base/types.h"

namespace veld {

// Mean curvature, 1/mm, positive where it bulges: the change of the normal along the edges, averaged around a vertex
// [Rusinkiewicz 2004, Estimating Curvatures and Their Derivatives on Triangle Meshes, eq. 2].
// place: same_place() of the positions; all of them share what their place has.
std::vector<float> mean_curvature(const Points& positions, const Points& normals,
                                  const std::vector<Triangle>& triangles, const std::vector<Index>& place);

// mm that each vertex lies above (positive) or below (negative) its surroundings averaged over about radius_mm: pores
// and wrinkles are below. Averaging: implicit fairing's explicit step [Desbrun, Meyer, Schroder, Barr 1999], uniform
// weights, as many rounds as edges need to reach that far.
std::vector<float> relief(const Points& positions, const Points& normals, const std::vector<Triangle>& triangles,
                          const std::vector<Index>& place, double radius_mm);

}  // namespace veld
