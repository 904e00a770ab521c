#pragma once
// A kit as one file, to be shared.
#include <string>

#include "core/base/progress.h"
#include "core/base/result.h"

namespace veld {

// All files of the kit's folder, under the folder's name. Fails with BadInput where it is no kit, Io.
Status pack_kit(const std::string& folder, const std::string& zip);
// Into `folder`, which must be new or empty; whole or not at all. Fails as unpack_zip, with BadInput where the folder
// holds something, BadFile where the archive holds no kit.
Status unpack_kit(const std::string& zip, const std::string& folder, const Progress& progress);

}  // namespace veld
