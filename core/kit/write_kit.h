#pragma once
// A base kit as a folder (docs/formats.md), as read_base_kit reads it.
#include "core/kit/base_kit.h"

namespace veld {

// Written whole or not at all: into a folder beside the wanted one, which then takes its place. original: the file
// that the kit was made from, copied along when kit.original names one; else not looked at. What lies in `folder`
// already and is no kit is never replaced (BadInput).
Status write_base_kit(const BaseKit& kit, const std::string& folder, const std::string& original = {});

}  // namespace veld
