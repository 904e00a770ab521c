#pragma once
// Faces that a fit turned over or pushed through each other, and going back around them.
#include <set>

#include "core/fit/wrap.h"

namespace veld {

struct SurfaceFaults {
    TriangleIndices flipped;                    // of ProblemSurface::triangles
    std::vector<std::pair<Index, Index>> cuts;  // pairs of them that the base does not have
    std::set<Index> vertices;                   // of all of these
    int weight() const {                        // a flipped face is the worse
        return 10 * static_cast<int>(flipped.size()) + static_cast<int>(cuts.size());
    }
};

// x: all vertices of the base. base_cuts: pairs of triangles that cut each other on the base.
SurfaceFaults surface_faults(const WrapProblem& problem, const ProblemSurface& surface,
                             const std::set<std::pair<Index, Index>>& base_cuts, const Points& x);

// Of the problem, or looked for on its base.
std::set<std::pair<Index, Index>> cuts_of_base(const WrapProblem& problem, const ProblemSurface& surface);

std::set<Index> with_neighbours(const SurfaceStencil& stencil, const std::set<Index>& vertices);

// `inner` around the given vertices, `outer` elsewhere: whole within so many rings, fading over as many.
Points blended(const SurfaceStencil& stencil, const Points& outer, const Points& inner, const std::set<Index>& near,
               int rings);

// What moved from `before` to `x` and folded or cut: there x goes half or all of the way back, in the smallest
// surroundings that help. Faults that `before` has stay.
void take_back_faults(const WrapProblem& problem, const Points& before, Points& x);

}  // namespace veld
