#pragma once
// Settings of a fit as JSON (docs/formats.md).
#include <string_view>

#include "core/base/result.h"
#include "core/fit/settings.h"

namespace veld {

std::string fit_settings_text(const FitSettings& settings);
// Unknown keys and values out of range are errors that name the key.
Result<FitSettings> parse_fit_settings(std::string_view json, const std::string& where);

}  // namespace veld
