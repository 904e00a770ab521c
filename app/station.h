#pragma once
// The stations, in the order in which people work.

namespace veld {

enum class Station { Gather, Tidy, Mark, Fit, Touch, Bank, Deliver };

}  // namespace veld
