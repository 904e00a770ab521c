#pragma once
// Holes closed by new triangles (CGAL: minimal-weight triangulation [Liepa 2003], refined to the
// density around the hole and faired so that position, slope and curvature run on).
//
// Each hole is closed in a small copy of its surroundings, so a heavy scan costs no more than a
// light one. New corners get UV and colour from the rim, blended by distance.
#include "core/tidy/change.h"

namespace veld {

enum class FillForm { Flat, Smooth };

struct FillOptions {
    double largest = 60;  // holes with a longer diagonal stay open; the mesh's unit
    FillForm form = FillForm::Smooth;
    FaceMask near;  // not empty: only holes that touch a selected face
};

struct Hole {
    std::vector<Index> corners;  // border corners in order
    double diagonal = 0;         // of the box around it
    double length = 0;           // around it
};
// All open borders, seen through seams, longest first.
std::vector<Hole> find_holes(const Mesh& mesh);

// Holes that touch themselves or non-manifold edges stay open and are named in `said`.
Changed fill_holes(const Mesh& mesh, const FillOptions& options, const Progress& progress = {});

}  // namespace veld
