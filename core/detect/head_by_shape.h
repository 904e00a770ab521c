#pragma once
// Where a head lies on a base mesh in which no face was seen: one without eyes, or hardly shaped. Roughly, by its form
// alone.
#include <optional>

#include "core/base/progress.h"
#include "core/base/similarity.h"
#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"

namespace veld {

// surface: along its axes, in whichever way; a figure in any unit, a bust in about millimetres. Its frame -> the
// kit's. The kit's head is put on the top of the surface, turned all 24 ways, in several sizes; ICP [Besl & McKay
// 1992] tells which lies best. None: none of them lies well, or two ways lie alike.
std::optional<Similarity> head_by_shape(const BaseKit& kit, const SourceSurface& surface, const Progress& progress);

}  // namespace veld
