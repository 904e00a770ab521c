#include "core/project/state.h"

#include <algorithm>

#include "core/kit/base_kit.h"
#include "core/morph/drivers.h"
#include "core/morph/morph.h"

namespace veld {

std::vector<MorphAmount> ProjectState::amounts() const {
    std::vector<MorphAmount> out;
    const bool alone = std::any_of(bank.begin(), bank.end(), [](const BankEntry& e) { return e.solo; });
    Driving driving;
    for (const BankEntry& e : bank) {
        const bool on = !e.muted && (!alone || e.solo || !e.morph->drivers.empty());
        out.push_back({e.morph.get(), on ? e.amount : 0});
        if (on && e.morph->drivers.empty()) driving.amounts[e.morph->name] = e.amount;
    }
    for (MorphAmount& a : out) a.amount *= driven_share(a.morph->drivers, driving);
    return out;
}

namespace {

// The list of each subject that `list` picks is searched; null: nowhere. owner: whose it is, may be null.
template <class Thing, class Key>
const Thing* find_in(const ProjectState& state, std::vector<Thing> Subject::*list, Key id,
                     const Subject** owner = nullptr) {
    if (!id) return nullptr;
    for (const Subject& subject : state.subjects) {
        for (const Thing& thing : subject.*list) {
            if (thing.id != id) continue;
            if (owner) *owner = &subject;
            return &thing;
        }
    }
    return nullptr;
}

template <class Thing, class Key>
const Subject* owner_of(const ProjectState& state, std::vector<Thing> Subject::*list, Key id) {
    const Subject* owner = nullptr;
    find_in(state, list, id, &owner);
    return owner;
}

}  // namespace

const Subject* find_subject(const ProjectState& state, SubjectId id) {
    for (const Subject& subject : state.subjects) {
        if (id && subject.id == id) return &subject;
    }
    return nullptr;
}

const Source* find_source(const ProjectState& state, SourceId id) { return find_in(state, &Subject::sources, id); }
const PhotoSet* find_photo_set(const ProjectState& state, PhotoSetId id) {
    return find_in(state, &Subject::photo_sets, id);
}
const FitRecord* find_fit(const ProjectState& state, FitId id) { return find_in(state, &Subject::fits, id); }
const Subject* subject_of(const ProjectState& state, SourceId id) { return owner_of(state, &Subject::sources, id); }
const Subject* subject_of(const ProjectState& state, PhotoSetId id) {
    return owner_of(state, &Subject::photo_sets, id);
}
const Subject* subject_of(const ProjectState& state, FitId id) { return owner_of(state, &Subject::fits, id); }

int morph_place(const ProjectState& state, MorphId id) {
    for (std::size_t i = 0; i < state.bank.size(); ++i) {
        if (id && state.bank[i].id == id) return static_cast<int>(i);
    }
    return -1;
}

std::vector<std::string> fit_names(const Subject& subject) {
    std::vector<std::string> out;
    for (const FitRecord& f : subject.fits) out.push_back(f.name);
    return out;
}

std::vector<std::string> source_names(const Subject& subject) {
    std::vector<std::string> out;
    for (const Source& s : subject.sources) out.push_back(s.name);
    for (const PhotoSet& p : subject.photo_sets) out.push_back(p.name);
    return out;
}

std::map<std::string, double> open_doubts(const ProjectState& state) {
    std::map<std::string, double> out = state.kit->doubts;
    const auto moved = [](const auto& now, const auto& was, const std::string& name) {
        const auto here = now.find(name), there = was.find(name);
        return here == now.end() || there == was.end() || !(here->second == there->second);
    };
    std::erase_if(out, [&](const auto& doubt) {
        return moved(state.base_points, state.kit->landmarks, doubt.first) &&
               moved(state.base_curves, state.kit->curves, doubt.first);
    });
    return out;
}

BaseKit kit_with_changes(const ProjectState& state) {
    BaseKit out = *state.kit;
    out.landmarks = state.base_points;
    out.curves = state.base_curves;
    for (const auto& [name, place] : state.base_points) {
        const auto was = state.kit->landmarks.find(name);
        if (was == state.kit->landmarks.end() || !(was->second == place)) out.by_hand.insert(name);
    }
    out.doubts = open_doubts(state);
    return out;
}

bool kit_is_changed(const ProjectState& state) {
    return state.kit && (!state.kit_edits.empty() || state.base_points != state.kit->landmarks ||
                         state.base_curves != state.kit->curves);
}

ProjectState new_project(std::shared_ptr<const BaseKit> kit) {
    ProjectState out;
    out.base_points = kit->landmarks;
    out.base_curves = kit->curves;
    out.head_share = kit->head_share;
    out.kit = std::move(kit);
    return out;
}

std::string free_name(const std::string& wanted, const std::vector<std::string>& taken) {
    std::string out = wanted;
    for (int i = 2; std::find(taken.begin(), taken.end(), out) != taken.end(); ++i)
        out = wanted + " " + std::to_string(i);
    return out;
}

}  // namespace veld
