#pragma once
// The bank's part of a project file: morphs, the mix, what was sent (docs/formats.md). Used by the store alone.
#include <functional>
#include <nlohmann/json.hpp>

#include "core/project/state.h"

namespace veld {

// keep: takes heavy bytes and gives their id.
void pack_bank(const ProjectState& state, nlohmann::ordered_json& out,
               const std::function<std::string(std::string)>& keep);
// blob: the bytes of an id; false when they are not there. Throws nlohmann's exceptions on what is no bank.
Status unpack_bank(const nlohmann::ordered_json& json, const std::string& path,
                   const std::function<bool(const std::string&, std::string&)>& blob, ProjectState& out);

}  // namespace veld
