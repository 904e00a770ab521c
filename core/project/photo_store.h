#pragma once
// What a fit from photographs adds to its entry in a project file (docs/formats.md). Used by the store alone.
#include <functional>
#include <nlohmann/json.hpp>

#include "core/project/state.h"

namespace veld {

// keep: takes heavy bytes and gives their id.
void pack_photo_head(const FitRecord& fit, nlohmann::ordered_json& out,
                     const std::function<std::string(std::string)>& keep);
// blob: the bytes of an id; false when they are not there. Throws nlohmann's exceptions on what is no such entry.
Status unpack_photo_head(const nlohmann::ordered_json& json, const std::string& path, std::size_t vertices,
                         const std::function<bool(const std::string&, std::string&)>& blob, FitRecord& out);

}  // namespace veld
