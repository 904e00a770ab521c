#pragma once
// Landmarks wherever a project keeps them.
#include "core/base/result.h"
#include "core/project/state.h"

namespace veld {

// A point or curve of the user's own gets another name on the base, on every source and photograph, and in what the
// fits remember of the landmarks that they were made with (else each would count as outdated). Fails with BadInput
// when the name is of the scheme, taken, empty or holds a '#'.
Status rename_landmark(ProjectState& state, const std::string& from, const std::string& to);

}  // namespace veld
