#pragma once
// How open a surface lies to what is around it: what shading by light alone does not tell. Nostrils, the inside of a
// mouth, folds of an ear and the gap below a lid are closed in, a forehead is open.
#include "core/base/progress.h"
#include "core/base/types.h"

namespace veld {

class SurfaceQuery;

struct OpennessSettings {
    int rays = 48;          // a vertex
    double reach_mm = 70;   // what is farther away closes nothing in; nearer it does so the more
    double lift_mm = 0.05;  // rays start this far off the surface, so that they do not meet it at once
    int smooth_rounds = 1;  // averaged with the neighbours, which evens out what few rays leave uneven
};

// Per vertex 0 (closed in) .. 1 (open): ambient occlusion by rays over the hemisphere around the normal, as many as
// its cosine says [Pharr, Jakob, Humphreys, Physically Based Rendering, 4th ed., A.5.3: cosine-weighted hemisphere
// sampling; Zhukov, Iones, Kronin 1998 for the falloff with distance]. The same input gives the same numbers, whatever
// the threads. surface: what closes in, in the same frame; vertices without a normal are open. Empty: cancelled.
std::vector<float> openness_of(const Points& positions, const Points& normals, const std::vector<Triangle>& triangles,
                               const SurfaceQuery& surface, const OpennessSettings& settings,
                               const Progress& progress);
// The same, from the cache when it was made before.
std::vector<float> kept_openness_of(const Points& positions, const Points& normals,
                                    const std::vector<Triangle>& triangles, const SurfaceQuery& surface,
                                    const OpennessSettings& settings, const Progress& progress);

}  // namespace veld
