#pragma once
// Where a source is likely not the subject: hair, caps, clothes, chairs, stands.
//
// Signs: far from the base as it stands (25 mm on a head, 220 mm on a figure), rough or stepped within a
// few millimetres (wool, curls, collars), of another colour than the face's own skin. Patches below
// 6 square centimetres are left out. A proposal for a person to accept, change or wipe.
#include "core/base/similarity.h"
#include "core/kit/base_kit.h"
#include "core/tidy/change.h"

namespace veld {

// to_mm: mesh -> upright frame, after straightening.
FaceMask suggest_ignored(const Mesh& mesh, const Similarity& to_mm, const BaseKit& kit);

}  // namespace veld
