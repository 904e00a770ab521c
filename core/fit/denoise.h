#pragma once
// A scan's noise averaged out of what a fit is matched to.
//
// Each vertex is moved along its normal onto a quadric through its surroundings [moving least squares, Alexa et al.
// 2003]. How noisy the scan is, is read off the scan: the middle of what the quadrics leave. Where they leave much
// more (a lid's edge, a fold), it is form and stays as it is. The scan itself is not changed: figures are measured on
// it.
#include "core/mesh/mesh.h"

namespace veld {

// One place per vertex; empty when there is nothing worth averaging (noise below 0.01 mm, or triangles so coarse that
// the surroundings are no small piece of surface). positions in mm.
Points denoised(const Points& positions, const std::vector<Triangle>& triangles);

}  // namespace veld
