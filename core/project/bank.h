#pragma once
// What the Bank station does to a project's state: the mix, settings A and B, and morphs that come and go.
#include "core/base/result.h"
#include "core/project/state.h"
#include "core/proof/proof_subject.h"

namespace veld {

struct Morph;

// Sliders and regions together.
Points mixed_shape(const ProjectState& state);
// The same as one morph; the root stays a root. Fails when nothing is mixed.
Result<Morph> bake_mix(const ProjectState& state, const std::string& name);

// Corrections that were made in proofs (core/proof/mend.h) and are on; of the shape at rest, or the others.
std::vector<ShapeCorrection> corrections_in(const ProjectState& state, bool of_rest);

// Where it is in the bank; -1: nowhere.
int find_morph(const ProjectState& state, const std::string& name);
// A new entry under a name that is free; returns its place.
std::size_t add_morph(ProjectState& state, Morph morph, double amount);
// Another shape under the same name: amount, group, range, marks, and everything that asks for it by name stay.
void replace_morph(ProjectState& state, std::size_t at, Morph morph);
// The new name everywhere that the old one was asked for; made free when it is taken.
void rename_morph(ProjectState& state, std::size_t at, const std::string& name);
void remove_morph(ProjectState& state, std::size_t at);

MixSetting mix_setting(const ProjectState& state);
void set_mix(ProjectState& state, const MixSetting& setting);
// 0: setting A, 1: setting B; beyond is allowed. Both must be there.
void set_between(ProjectState& state, double share);

// One amount of a region; 0 takes it out. False: the region has its eight shapes already.
bool set_region_amount(ProjectState& state, const RegionAmount& amount);

// Per vertex of the base: the head's share, painted or by the neck band.
std::vector<double> head_share_weights(const ProjectState& state);

}  // namespace veld
