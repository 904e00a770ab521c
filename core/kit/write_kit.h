#pragma once
// A base kit as a folder (docs/formats.md), as read_base_kit reads it.
#include "core/kit/base_kit.h"

namespace veld {

// Written whole or not at all: into a folder beside the wanted one, which then takes its place. originals: the
// files that the kit was made from, copied along when kit.original names them; else not looked at. What lies in
// `folder` already and is no kit is never replaced (BadInput).
Status write_base_kit(const BaseKit& kit, const std::string& folder, const std::vector<std::string>& originals = {});

// What people change in a kit (landmarks, curves, regions, neck ring, joints, weights, roles, doubts, rules of parts,
// rest poses, reduced versions), written into
// its own folder; all else there stays as it is, own_landmarks.json is taken in.
Status update_base_kit(const BaseKit& kit);
// Its reduced versions as they are in the folder once that is done: those that lie elsewhere yet are copied there.
std::vector<KitReduced> reduced_in_folder(const BaseKit& kit);
// The same into a copy of its folder: a new or empty one.
Status copy_base_kit(const BaseKit& kit, const std::string& folder);

}  // namespace veld
