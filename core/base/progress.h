#pragma once
// How long work talks to whoever waits for it.
//
// Every function that may take longer than a fifth of a second takes a `const Progress&`.
// The callbacks run on the worker's thread. Work that finds `is_cancelled()` returns
// ErrorCode::Cancelled and leaves its input as it was.
#include <functional>
#include <string>

#include "core/base/types.h"

namespace veld {

struct Progress {
    // fraction in 0..1 and the stage in plain words
    std::function<void(double, const std::string&)> report;
    std::function<bool()> cancelled;
    // current vertex positions of the mesh that is being shaped (kit frame, mm)
    std::function<void(const Points&)> live;

    void say(double fraction, const std::string& stage) const {
        if (report) report(fraction, stage);
    }
    bool is_cancelled() const { return cancelled && cancelled(); }
};

}  // namespace veld
