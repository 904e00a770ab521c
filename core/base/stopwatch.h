#pragma once
// Seconds from lap to lap.
#include <chrono>

namespace veld {

class Stopwatch {
 public:
    double lap() {
        const auto now = std::chrono::steady_clock::now();
        const double out = std::chrono::duration<double>(now - last_).count();
        last_ = now;
        return out;
    }

 private:
    std::chrono::steady_clock::time_point last_ = std::chrono::steady_clock::now();
};

}  // namespace veld
