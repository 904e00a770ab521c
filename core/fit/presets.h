#pragma once
// Settings to begin with, by what the source is.
#include "core/base/result.h"
#include "core/fit/settings.h"

namespace veld {

struct FitPreset {
    std::string name;   // in files and on the command line
    std::string plain;  // for people
    std::string why;
    FitSettings settings;
};
const std::vector<FitPreset>& fit_presets();
Result<FitSettings> fit_preset(const std::string& name);

}  // namespace veld
