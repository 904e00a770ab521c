#pragma once
// JSON that keeps the order in which it was written (nlohmann); for .cpp files only, it compiles slowly.
#include <nlohmann/json.hpp>

namespace veld {

using Json = nlohmann::ordered_json;

}  // namespace veld
