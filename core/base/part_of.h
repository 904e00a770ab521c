#pragma once
// The progress of one step within a whole.
#include "core/base/progress.h"

namespace veld {

// from, to: the step's shares of the whole. Live shapes are not passed on: a step's vertices may be another mesh's.
// The whole must outlive what it returns.
inline Progress part_of(const Progress& whole, double from, double to) {
    Progress out = whole;
    if (whole.report)
        out.report = [&whole, from, to](double f, const std::string& stage) {
            whole.report(from + f * (to - from), stage);
        };
    out.live = nullptr;
    return out;
}

}  // namespace veld
