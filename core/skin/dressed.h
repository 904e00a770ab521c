#pragma once
// The base's mesh wearing other pictures, for showing and for files.
#include "core/skin/bake_surface.h"

namespace veld {

// pictures: parallel to the surface's tiles; one without bytes: that tile keeps its materials. Each of the others is a
// material of its own, "skin_" and its tile's name. Materials and pictures that nothing wears any more are left out.
// Positions and UVs stay.
Mesh dressed_mesh(const Mesh& mesh, const BakeSurface& surface, const std::vector<Image>& pictures);

}  // namespace veld
