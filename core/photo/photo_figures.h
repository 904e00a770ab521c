#pragma once
// Figures of a head that stands on no surface: flips, cuts and distortion against the base, and how far the
// landmarks lie from their photographs.
#include "core/photo/photo_head.h"

namespace veld {

// photos: may be empty (a blend). The worst photograph counts for each landmark.
FitFigures photo_figures(const BaseKit& kit, double neck_band_mm, const Points& shape,
                         const std::vector<PhotoFigures>& photos);

}  // namespace veld
