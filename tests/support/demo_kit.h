#pragma once
// The demo kit, read once per test program.
#include <memory>

#include "core/kit/base_kit.h"
#include "tests/support/scratch.h"

namespace veld {

inline std::shared_ptr<const BaseKit> demo_kit() {
    static const std::shared_ptr<const BaseKit> kit = [] {
        auto read = read_base_kit(demo("kit"));
        return read ? std::make_shared<BaseKit>(std::move(*read)) : nullptr;
    }();
    return kit;
}

}  // namespace veld
