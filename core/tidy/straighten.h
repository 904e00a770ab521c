#pragma once
// A source put upright: by itself, or by three picked points.
#include "core/base/progress.h"
#include "core/tidy/orient.h"

namespace veld {

// Finds the kit's figure in the source: rigid ICP [Rusinkiewicz & Levoy 2001] from 24 attitudes of the
// source, trimmed against chairs and caps, the best one refined; then the source's own mirror plane is
// laid on x = 0. Works for heads and bodies. Fails with DegenerateInput when no attitude fits.
struct Straightened {
    Similarity to_upright;
    double fit_mm = 0;  // median distance of the trimmed match
    std::string said;
};
Result<Straightened> straighten(const Mesh& mesh, const BaseKit& kit, const Similarity& rough,
                                const Progress& progress);

// Both eyes and the nose tip, in mesh coordinates: right eye, left eye (the subject's own), nose.
// The eye line becomes level, the face looks along +Z and down its nose as the kit's does.
Result<Similarity> straighten_by_face(const BaseKit& kit, const Similarity& now, const std::array<Vec3, 3>& picked);

}  // namespace veld
