#pragma once
// Zip archives in and out.
#include <string>

#include "core/base/progress.h"
#include "core/base/result.h"

namespace veld {

// All files of an archive below `folder`, never above it. Fails with Io, BadFile (what is damaged, encrypted, or too
// much), Cancelled.
Status unpack_zip(const std::string& archive, const std::string& folder, const Progress& progress);
// All files of a folder, under the folder's own name; written whole or not at all. Fails with Io.
Status pack_zip(const std::string& folder, const std::string& archive);

}  // namespace veld
