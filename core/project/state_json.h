#pragma once
// A project's state as JSON, its heavy arrays replaced by the ids of blobs (docs/formats.md).
#include <functional>

#include "core/base/json.h"
#include "core/project/state.h"

namespace veld {

// folder: where the project file lies; the kit is named from there as well. blobs: what the JSON names, by id.
Json pack_state(const ProjectState& state, const std::string& folder, std::map<std::string, std::string>& blobs);

// The bytes of a blob; false when it is not there or is damaged.
using BlobReader = std::function<bool(const std::string& id, std::string& bytes)>;
// path: of the project, for messages. Fails with BadFile (damaged) or BadInput (another base mesh).
Result<ProjectState> unpack_state(const Json& json, std::shared_ptr<const BaseKit> kit, const BlobReader& blob,
                                  const std::string& path);

}  // namespace veld
