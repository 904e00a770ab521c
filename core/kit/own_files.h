#pragma once
// What users add to a kit lies in files of its own beside figure.json.

namespace veld {

inline constexpr const char* kOwnFile = "own_landmarks.json";
inline constexpr const char* kShareFile = "share_weights.json";

}  // namespace veld
