#pragma once
// The project file: one SQLite database (docs/formats.md).
//
// A save is one transaction: killed in the middle, the file opens with the last complete state.
// Two states live in it: what the user saved and, when newer, what autosave kept.
#include "core/project/state.h"

namespace veld {

enum class SaveSlot { Saved, Autosave };

// Heavy arrays that are already in the file are not written again.
Status save_project(const std::string& path, const ProjectState& state, SaveSlot slot = SaveSlot::Saved);

struct LoadedProject {
    ProjectState state;
    bool autosave_is_newer = false;  // load again with SaveSlot::Autosave to get it
    std::vector<std::string> notes;
};
// kit_folder: use this kit instead of the one that the file names (when it was moved).
Result<LoadedProject> load_project(const std::string& path, SaveSlot slot = SaveSlot::Saved, const std::string& kit_folder = {});

// Throws the autosaved state away (the user did not want it).
Status drop_autosave(const std::string& path);

}  // namespace veld
