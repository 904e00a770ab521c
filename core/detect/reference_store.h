#pragma once
// The face network's look at a kit's base, kept on disk: it is the same for every scan.
//
// One file per kit in the cache (core/base/cache), not in the kit's own folder: kits are often read-only or shared.
// The name carries a key of everything that the look depends on, so a changed kit never meets an old look. Losing the
// file costs half a second.
#include "core/detect/face_views.h"

namespace veld {

// The stored look, or a new one that is then stored.
Result<FaceReference> kept_face_reference(FaceNetwork& network, const BaseKit& kit);

// The file's name for this kit.
std::string face_reference_file(const BaseKit& kit);

}  // namespace veld
