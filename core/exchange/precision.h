#pragma once
// How coarse the numbers of a file are: the step that they are multiples of, or what single precision leaves of them.
#include "core/base/types.h"

namespace veld {

// In the numbers' own unit; 0: full double precision.
double precision_of(const Points& numbers);

}  // namespace veld
