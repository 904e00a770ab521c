#pragma once
// A project's state as JSON, its heavy arrays replaced by the ids of blobs (docs/formats.md). records/packing.h has
// the records.
#include "core/project/records/blobs.h"
#include "core/project/state.h"

namespace veld {

// folder: where the project file lies; the kit is named from there as well. blobs: what the JSON names, by id.
Json pack_state(const ProjectState& state, const std::string& folder, std::map<std::string, std::string>& blobs);

// Fails with BadFile (damaged) or BadInput (another base mesh).
Result<ProjectState> unpack_state(const Json& json, std::shared_ptr<const BaseKit> kit, const BlobReader& blobs);

}  // namespace veld
