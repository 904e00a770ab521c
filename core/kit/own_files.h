#pragma once
// What users add to a kit lies in files of its own beside figure.json.
#include <string>
#include <string_view>

#include "core/mesh/soft_region.h"

namespace veld {

inline constexpr const char* kOwnFile = "own_landmarks.json";
inline constexpr const char* kShareFile = "share_weights.json";

// The painted head share as it lies in its file; `why` says what is wrong with it (empty: nothing).
SoftWeights share_weights_from(std::string_view text, const std::string& topology_key, std::size_t vertices,
                               std::string& why);

}  // namespace veld
