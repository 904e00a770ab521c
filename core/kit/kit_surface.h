#pragma once
// Parts of a kit's surface that several rooms ask for. What comes by reference is made once and lives with the kit.
#include "core/kit/base_kit.h"

namespace veld {

// What hides what lies behind it: everything but the lashes. As numbers of the kit's triangulation, and as triangles.
TriangleIndices solid_fans(const BaseKit& kit);
const std::vector<Triangle>& solid_triangles(const BaseKit& kit);

FaceIndices faces_of(const KitPart& part);
const FaceIndices& skin_faces(const BaseKit& kit);
const std::vector<Triangle>& skin_triangles(const BaseKit& kit);
// Pairs of skin triangles that cut each other on the base itself.
const std::vector<std::pair<Index, Index>>& skin_cuts(const BaseKit& kit);

// Of all vertices, by the kit's own triangles.
const Adjacency& kit_neighbours(const BaseKit& kit);
const Points& kit_normals(const BaseKit& kit);
// Per vertex of the head's skin: mm along the edges from the neck ring. Elsewhere not finite.
const std::vector<double>& distance_from_neck(const BaseKit& kit);

// Per vertex 0..1: how much of it is the head's; 0 at and below the neck ring, 1 above the band.
std::vector<double> head_fade(const BaseKit& kit, double band_mm);
// Per vertex: 1 where the skin has some of that.
VertexMask head_vertices(const BaseKit& kit, const std::vector<double>& fade);
// The kit's mesh without the skin below the neck, which no photograph of a head shapes.
Mesh without_body(const BaseKit& kit, double band_mm);

// What of the base a fit of that part is looked at by: the head's skin, or all of it.
Box head_box(const BaseKit& kit);
// The skin's regions that can be told what to do, the head's first.
std::vector<std::string> skin_regions(const BaseKit& kit);

// What is not skin on it, per vertex: 1 where it is an eyeball's or a lash's, else 0; on lashes how far along the lid
// (0..1) and how far from it (0 at the lid, 1 at the tips), by their texture coordinates.
struct SurfaceKinds {
    std::vector<float> eye, lash, along, out;
};
SurfaceKinds surface_kinds(const BaseKit& kit);
// The middle of the neck ring; zero when the kit names none.
Vec3 neck_middle(const BaseKit& kit);

}  // namespace veld
