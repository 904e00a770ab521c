#include "core/base/threads.h"

#include <tbb/global_control.h>

#include <algorithm>
#include <memory>
#include <thread>

namespace veld {

void limit_threads(int most) {
    static std::unique_ptr<tbb::global_control> limit;
    limit.reset();
    if (most > 0)
        limit = std::make_unique<tbb::global_control>(tbb::global_control::max_allowed_parallelism,
                                                      static_cast<std::size_t>(most));
}

int machine_threads() { return std::max(1, static_cast<int>(std::thread::hardware_concurrency())); }

}  // namespace veld
