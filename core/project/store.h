#pragma once
// The project file: one SQLite database (docs/formats.md).
//
// A save is one transaction: killed in the middle, the file opens with the last complete state.
// Two states live in it: what the user saved and, when newer, what autosave kept.
#include "core/base/result.h"
#include "core/project/state.h"

namespace veld {

enum class SaveSlot { Saved, Autosave };

// Which window asked for a save, and as which of its requests (counted up). Of two requests of one window the later
// one counts, in whatever order they reach the file: an autosave that comes after a newer save is not written.
struct SaveMark {
    ProjectId document;
    std::uint64_t request = 0;
};

// Heavy arrays that are already in the file are not written again.
Status save_project(const std::string& path, const ProjectState& state, SaveSlot slot = SaveSlot::Saved,
                    const SaveMark& mark = {});

// The same in two steps, so that the file is locked only while it is written. `state` is JSON that names the heavy
// arrays by what is in them: two projects with the same text hold the same.
struct PackedProject {
    std::string state;
    std::map<std::string, std::string> blobs;
};
PackedProject pack_project(const ProjectState& state, const std::string& path);
Status write_packed(const std::string& path, const PackedProject& packed, SaveSlot slot = SaveSlot::Saved,
                    const SaveMark& mark = {});

struct LoadedProject {
    ProjectState state;
    bool autosave_is_newer = false;  // load again with SaveSlot::Autosave to get it
    std::vector<std::string> notes;
};
// kit_folder: use this kit instead of the one that the file names (when it was moved). Fails with KitMissing when that
// one cannot be read.
Result<LoadedProject> load_project(const std::string& path, SaveSlot slot = SaveSlot::Saved,
                                   const std::string& kit_folder = {});

// Throws the autosaved state away (the user did not want it).
Status drop_autosave(const std::string& path);

}  // namespace veld
