#pragma once
// Parts of a kit's surface that several rooms ask for.
#include "core/kit/base_kit.h"

namespace veld {

// What hides what lies behind it: everything but the lashes. As numbers of the kit's triangulation, and as triangles.
std::vector<Index> solid_fans(const BaseKit& kit);
std::vector<Triangle> solid_triangles(const BaseKit& kit);

std::vector<Index> faces_of(const KitPart& part);
std::vector<Index> skin_faces(const BaseKit& kit);
std::vector<Triangle> skin_triangles(const BaseKit& kit);

// Per vertex 0..1: how much of it is the head's; 0 at and below the neck ring, 1 above the band.
std::vector<double> head_fade(const BaseKit& kit, double band_mm);
// Per vertex: 1 where the skin has some of that.
VertexMask head_vertices(const BaseKit& kit, const std::vector<double>& fade);

}  // namespace veld
