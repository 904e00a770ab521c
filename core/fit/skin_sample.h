#pragma once
// A sample of the kit's skin against a figure's surface: what each of its places should do, and how far both are
// apart.
#include "core/fit/pose_solver.h"
#include "core/fit/source_surface.h"

namespace veld {

using SkinSample = std::vector<SkinPlace>;

// About `count` of the vertices, in even steps; normals: of the kit at rest, per vertex.
SkinSample skin_sample(const BaseKit& kit, const VertexIndices& vertices, const Points& normals, std::size_t count);

// Asks the solver to bring each place to the nearest one of the surface that faces as it does. Returns their
// distances, mm; places without a counterpart within twice the reach are left out.
std::vector<double> add_matches(PoseSolver& solver, const SkinSample& sample, const SourceSurface& surface,
                                double reach);

// The other way: from each of the surface's points to the nearest place, which is to come there. What of the surface
// no place is near to draws the ends of limbs.
void add_back_matches(PoseSolver& solver, const SkinSample& dense, const Points& points, double reach, double weight);

// About `count` places spread evenly over the surface's area.
Points surface_sample(const SourceSurface& surface, std::size_t count);

// How far sample and surface are apart, as the mean of both ways: from each place of the sample to what of the surface
// faces as it does, and from each of `points` to the nearest place of the dense one. mm; each counts `most` at most.
double apart(const PoseSolver& solver, const SkinSample& sample, const SkinSample& dense, const SourceSurface& surface,
             const Points& points, double most);

}  // namespace veld
