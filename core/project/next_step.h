#pragma once
// What comes next for the subject that is worked on, where that is obvious.
#include "core/project/state.h"

namespace veld {

enum class NextStep {
    None,           // nothing, or it is a person's choice
    AddSource,      // the subject has nothing yet
    Repair,         // a scan as it came: common faults, and nothing was done to it
    FindLandmarks,  // fewer than a fit needs
    Fit,            // marked, and not fitted as it is now
    MakeHead,       // photographs and no scan, no head from them yet
    KeepMorph,      // a fit that is not in the bank as it is now
    Deliver         // the fit is in the bank
};

// A fit needs as many.
constexpr std::size_t kLeastFitLandmarks = 3;

NextStep next_step(const ProjectState& state);

}  // namespace veld
