#pragma once
// What a kit can do, and what is missing for the rest.
#include "core/kit/base_kit.h"

namespace veld {

struct KitAbility {
    const char* name;                  // "head fits"
    std::vector<std::string> missing;  // empty: it can do that
    std::vector<std::string> weak;     // it can, but not as well as it might: why
    bool ready() const { return missing.empty(); }
};

// In the order in which people need them: head fits, parts that follow, head and body shares, body fits, heads from
// photographs, expressions, mirrored work, exports in the file's own order.
std::vector<KitAbility> check_kit(const BaseKit& kit);

}  // namespace veld
