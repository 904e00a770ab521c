#pragma once
// Frames of files as a kit's folder keeps them; for the files of this folder only.
#include "core/base/json.h"
#include "core/base/similarity.h"

namespace veld {

Json frame_json(const Similarity& frame);
// Throws Json::exception where it is none.
Similarity frame_from(const Json& json);
bool is_frame(const Similarity& frame);  // that leads somewhere

}  // namespace veld
