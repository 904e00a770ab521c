#pragma once
// In which unit and axes a further file of a base stands: a rig of it, a mesh of fewer vertices.
#include "core/base/result.h"
#include "core/kit/base_kit.h"

namespace veld {

// The frame in which the mesh lies on the base: the one of the kit's own file, the kit's, or another of the usual
// units and of the 24 ways to turn axes, whichever brings its surface nearest. what: names the file in messages.
// Fails with BadInput when it lies on the base in none of them.
Result<Similarity> frame_on_base(const Mesh& mesh, const BaseKit& kit, const std::string& what);

}  // namespace veld
