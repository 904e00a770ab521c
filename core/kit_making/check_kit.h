#pragma once
// What a kit can do, and what is missing for the rest.
#include "core/fit/fit.h"
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

// A made-up head fitted onto the kit, as its people will be: another person than either base, with the landmarks that
// both know. model: the kit whose head it is made from. Fails as run_fit.
struct KitTrial {
    Points positions;  // of the kit's vertices, its own frame
    FitFigures figures;
};
Result<KitTrial> try_kit(const BaseKit& kit, const BaseKit& model, const Progress& progress);

}  // namespace veld
