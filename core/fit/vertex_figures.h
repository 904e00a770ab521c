#pragma once
// What is looked at in colours: one number per vertex. Not a number where there is nothing to say.
#include "core/base/similarity.h"
#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"

namespace veld {

// Distance to the source in mm, positive where the fit stands outside of it. where: only where this is a number.
// to_surface: from the fit's frame to the surface's, which was made for another placement of the same source.
std::vector<float> signed_distances(const BaseKit& kit, const Points& fit, const SourceSurface& source,
                                    const std::vector<float>& where, const Similarity& to_surface = {});
// The other way round: per vertex of the source, mm to the fit's skin; NaN beyond reach_mm.
std::vector<float> source_distances(const BaseKit& kit, const Points& fit, const Mesh& source,
                                    const Similarity& to_kit, double reach_mm);
// How much longer the edges around a vertex are than on the base, after taking the mean of the whole skin out: 0.2 is
// a fifth longer, -0.2 a fifth shorter. Of the moving skin only (moved by more than a micrometre).
std::vector<float> edge_stretch(const BaseKit& kit, const Points& fit);
// Largest change of a face's corner angle at a vertex, degrees.
std::vector<float> angle_change(const BaseKit& kit, const Points& fit);

}  // namespace veld
