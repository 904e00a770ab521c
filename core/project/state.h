#pragma once
// What a project holds, as a plain value; its records are in records/. Heavy arrays are shared and never changed in
// place, so a copy of the whole state is cheap: undo keeps copies, a worker thread reads its own.
#include <memory>

#include "core/exchange/sent_file.h"
#include "core/kit/kit_edits.h"
#include "core/project/records/bank_entry.h"
#include "core/project/records/fit_record.h"
#include "core/project/records/rest_work.h"
#include "core/project/records/source.h"
#include "core/rig/skin_weights.h"

namespace veld {

struct BaseKit;
struct BaseRegions;
struct LayeredSkin;  // core/skin/layers.h
struct Proof;

struct Subject {
    std::string name;
    std::vector<Source> sources;
    std::vector<FitRecord> fits;
    std::vector<PhotoSet> photo_sets = {};
    int current_fit = -1;                                        // the try that is worked on; -1: the last one
    std::vector<std::shared_ptr<const LayeredSkin>> skins = {};  // no two of one name
    int current_skin = 0;                                        // the one that is looked at and worked on
    SubjectId id = SubjectId::make();

    const FitRecord* fit() const {
        if (fits.empty()) return nullptr;
        return current_fit >= 0 && current_fit < static_cast<int>(fits.size())
                   ? &fits[static_cast<std::size_t>(current_fit)]
                   : &fits.back();
    }
    FitRecord* fit() { return const_cast<FitRecord*>(std::as_const(*this).fit()); }
    std::shared_ptr<const LayeredSkin> skin() const {
        return current_skin >= 0 && current_skin < static_cast<int>(skins.size())
                   ? skins[static_cast<std::size_t>(current_skin)]
                   : nullptr;
    }
};

struct ProjectState {
    std::shared_ptr<const BaseKit> kit;               // with kit_edits in it
    KitEdits kit_edits;                               // what its folder does not have yet
    std::map<std::string, SurfacePoint> base_points;  // landmarks on the base, changed or not
    std::map<std::string, std::vector<SurfacePoint>> base_curves;
    PointSet asked = PointSet::Head;  // how much of the scheme is asked for
    std::vector<Subject> subjects;
    int subject = 0;                                   // the one being worked on
    FitSettings settings;                              // of the next fit
    std::vector<BankEntry> bank;                       // no two of one name
    std::vector<RegionAmount> region_mix;              // besides the sliders
    std::shared_ptr<const BaseRegions> regions;        // of the kit; null until somebody mixes by region
    std::optional<MixSetting> mix_a, mix_b;            // two settings kept for comparing and blending
    std::optional<double> between;                     // how far the mix stands from A to B; set by that slider alone
    std::shared_ptr<const RestWork> rest_work;         // null: no pose is to go out of anything
    std::vector<std::shared_ptr<const Proof>> proofs;  // that people made; no two of one name
    WeightSettings weights;                            // of shapes that go out with their skeleton
    SoftWeights head_share;                            // painted; empty: by the neck band
    double neck_band_mm = 55;
    std::string inbox;           // watched folder; empty: none
    std::string exchange;        // where the base is sent to and comes back from; empty: none yet
    std::vector<SentFile> sent;  // the newest of each file

    const Subject* current() const {
        return subject >= 0 && subject < static_cast<int>(subjects.size())
                   ? &subjects[static_cast<std::size_t>(subject)]
                   : nullptr;
    }
    Subject* current() { return const_cast<Subject*>(std::as_const(*this).current()); }
    // last source and current fit of the current subject, null when there is none
    const Source* source() const {
        return current() && !current()->sources.empty() ? &current()->sources.back() : nullptr;
    }
    const FitRecord* fit() const { return current() ? current()->fit() : nullptr; }
    // of the sliders, what is muted or not solo at 0; what has drivers (core/morph/drivers.h) as they bring it in
    std::vector<MorphAmount> amounts() const;
};

// By id, wherever in the project they stand; null: no longer there. A result of long work finds its place by these.
const Subject* find_subject(const ProjectState& state, SubjectId id);
const Source* find_source(const ProjectState& state, SourceId id);
const PhotoSet* find_photo_set(const ProjectState& state, PhotoSetId id);
const FitRecord* find_fit(const ProjectState& state, FitId id);
const Subject* subject_of(const ProjectState& state, SourceId id);
const Subject* subject_of(const ProjectState& state, PhotoSetId id);
const Subject* subject_of(const ProjectState& state, FitId id);
// The same in a state that is being made.
inline Subject* find_subject(ProjectState& s, SubjectId id) {
    return const_cast<Subject*>(find_subject(std::as_const(s), id));
}
inline Source* find_source(ProjectState& s, SourceId id) {
    return const_cast<Source*>(find_source(std::as_const(s), id));
}
inline PhotoSet* find_photo_set(ProjectState& s, PhotoSetId id) {
    return const_cast<PhotoSet*>(find_photo_set(std::as_const(s), id));
}
inline FitRecord* find_fit(ProjectState& s, FitId id) {
    return const_cast<FitRecord*>(find_fit(std::as_const(s), id));
}
inline Subject* subject_of(ProjectState& s, SourceId id) {
    return const_cast<Subject*>(subject_of(std::as_const(s), id));
}
inline Subject* subject_of(ProjectState& s, PhotoSetId id) {
    return const_cast<Subject*>(subject_of(std::as_const(s), id));
}
inline Subject* subject_of(ProjectState& s, FitId id) {
    return const_cast<Subject*>(subject_of(std::as_const(s), id));
}
// Where a morph stands in the bank; -1: nowhere.
int morph_place(const ProjectState& state, MorphId id);
// The names that are taken among a subject's fits, and among its sources and photo sets.
std::vector<std::string> fit_names(const Subject& subject);
std::vector<std::string> source_names(const Subject& subject);

// Landmarks and curves of the base that nobody has looked at or moved yet: how far they may be off, mm.
std::map<std::string, double> open_doubts(const ProjectState& state);
// The kit as it is in this state, with what was changed in it: landmarks and curves too.
BaseKit kit_with_changes(const ProjectState& state);
bool kit_is_changed(const ProjectState& state);

ProjectState new_project(std::shared_ptr<const BaseKit> kit);
// A name that no entry of `taken` has: "head scan", "head scan 2", ...
std::string free_name(const std::string& wanted, const std::vector<std::string>& taken);

}  // namespace veld
