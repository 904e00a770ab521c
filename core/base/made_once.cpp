#include "core/base/made_once.h"

#include <tbb/task_arena.h>

namespace veld {

void run_isolated(const std::function<void()>& work) { tbb::this_task_arena::isolate(work); }

}  // namespace veld
