#pragma once
// Clean-up steps as a file (docs/formats.md): re-run on a newer version of a scan or on another one.
#include <string_view>

#include "core/tidy/tools.h"

namespace veld {

std::string recipe_text(const std::vector<TidyStep>& steps);
// name: for messages. Unknown tools, numbers out of range and damaged selections are refused with
// their place ("step 3").
Result<std::vector<TidyStep>> parse_recipe(std::string_view text, const std::string& name);

}  // namespace veld
