#pragma once
// What has no counterpart on a scan moves with what has: eyeballs stay spheres behind the lids and
// are seated on the eye surface that the scan shows, teeth and tongue move rigidly with their jaw,
// lashes ride on the lid edge.
#include "core/base/similarity.h"
#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"

namespace veld {

// positions: skin already fitted, kit frame; the parts' vertices are replaced, and skin that sank
// into an eyeball deeper than on the base is set back outside. source may be null (no eye surface).
// Returns the similarity of each of kit.eyes.
std::vector<Similarity> follow_parts(const BaseKit& kit, const SourceSurface* source, Points& positions);

// Lashes moved on with the lids: from where they lie on `before` to the skin of `now`.
void lashes_along(const BaseKit& kit, const Points& before, Points& now);

}  // namespace veld
