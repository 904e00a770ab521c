#pragma once
// What people keep in order in a project: subjects and what they have, and the bank's morphs. All by id, wherever in
// the project they stand.
#include <optional>
#include <string>
#include <variant>

#include "core/project/state.h"

namespace veld {

using Thing = std::variant<SubjectId, SourceId, PhotoSetId, FitId, MorphId>;

// Empty: it is no longer there.
std::string name_of(const ProjectState& state, const Thing& thing);

// These return false when the thing is gone, or when there is nothing to do, and change nothing then.
// A name that is taken by one of its kind beside it gets a number.
bool rename_thing(ProjectState& state, const Thing& thing, const std::string& name);
// A subject goes with all it has. What was made from a thing stays.
bool remove_thing(ProjectState& state, const Thing& thing);
// A proof of people's own, under a name that is free; returns it.
std::string add_proof(ProjectState& state, Proof proof);
bool remove_proof(ProjectState& state, const std::string& name);

// One photograph of a set, with what is marked on it; of the last one the set goes. Heads made from the set keep their
// shape, and what they say of the other photographs. false: it is gone.
bool remove_photo(ProjectState& state, PhotoSetId set, std::size_t photo);
// One place towards the beginning (by < 0) or the end of its row. Of a subject's sources the last is the one that is
// worked on.
bool move_thing(ProjectState& state, const Thing& thing, int by);
// A copy beside it, with ids of its own; of a subject with all it has. None: the thing is gone.
std::optional<Thing> duplicate_thing(ProjectState& state, const Thing& thing);

}  // namespace veld
