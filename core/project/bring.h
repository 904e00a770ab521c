#pragma once
// The bank of another project, or morph files of another kit, for this project's base.
#include "core/kit_making/carry_morphs.h"
#include "core/project/state.h"

namespace veld {

// path: a project file; its bank and its kit. Fails as load_project and carry_morphs, with BadInput where its bank is
// empty.
Result<CarriedBank> bring_from_project(const std::string& path, const BaseKit& to, const Progress& progress);
// Morph files that were made for the kit in `from`.
Result<CarriedBank> bring_morph_files(const std::string& from, const std::vector<std::string>& paths,
                                      const BaseKit& to, const Progress& progress);

// Adds what was brought to the bank, under names that are free there.
void take_brought(ProjectState& state, const CarriedBank& brought);

}  // namespace veld
