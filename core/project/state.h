#pragma once
// What a project holds, as a plain value. Heavy arrays are shared and never changed in place, so a
// copy of the whole state is cheap: undo keeps copies, a worker thread reads its own.
#include <memory>

#include "core/base/id.h"
#include "core/base/similarity.h"
#include "core/exchange/send_out.h"
#include "core/fit/fit.h"
#include "core/landmark/photo_marks.h"
#include "core/mesh/soft_region.h"
#include "core/morph/region_mix.h"
#include "core/photo/by_hand.h"
#include "core/tidy/tools.h"
#include "core/touchup/layer.h"

namespace veld {

struct PagedMesh;  // a mesh that waits on the disk (pager.h)

struct Source {
    std::string name;
    std::string path;                  // where it came from; the mesh itself is in the project
    std::shared_ptr<const Mesh> mesh;  // the file's own unit and axes
    std::optional<Unit> unit;          // said by the file or the user; empty: guessed
    LandmarkSet landmarks;             // in the mesh's coordinates
    std::vector<std::string> notes;    // what the reader noticed

    Unit shown_unit = Unit::Millimetre;  // the unit, or the guess
    UpAxis up = UpAxis::PlusY;
    std::string unit_reason, up_reason;
    Similarity upright;                         // mesh -> upright frame (tidy/orient.h)
    std::shared_ptr<const VertexMask> ignored;  // null, or one per vertex: 1 is never matched
    std::vector<TidyStep> recipe;               // what was done to it since it was read
    std::vector<std::string> recipe_said;       // parallel: what each step did
    std::string stamp;                          // of the file when it was read
    std::shared_ptr<PagedMesh> paged;           // set while `mesh` is null: only in states of the past
    std::vector<SelectStep> selection;  // what is chosen for the next tool; undone like anything else, not saved
    SourceId id = SourceId::make();
};

// What a fit made from photographs keeps besides its shape.
struct PhotoRecord {
    PhotoHeadSettings settings;
    std::vector<PhotoFigures> photos;      // cameras and figures, one per photograph of the set
    std::vector<double> z;                 // of the shape space, to go on from
    std::shared_ptr<const Points> solved;  // the shape before sliders and touch-up
    HandShape hand;                        // the sliders
    std::vector<std::uint8_t> seen_by;     // per vertex: by how many photographs, at most 2
    std::vector<std::optional<PhotoCamera>> cameras() const {
        std::vector<std::optional<PhotoCamera>> out;
        for (const PhotoFigures& p : photos) out.push_back(p.camera);
        return out;
    }
};

// A skin of the head's tile, in place of one of the kit's images.
struct SkinRecord {
    std::shared_ptr<const Image> image;  // PNG; null: the kit's own
    int kit_image = -1;
    double from_photos = 0, mirrored = 0, from_base = 0;  // shares of the head's skin
};

struct FitRecord {
    std::string name;
    std::string source;                                   // what it was made from, by the name it had then: for people
    SourceId source_id;                                   // the scan or sculpt that it was fitted to; none: it was not
    PhotoSetId photo_set_id;                              // the photographs that it was made from; none: it was not
    std::shared_ptr<const Points> positions;              // kit frame, mm; the touch-up included
    std::shared_ptr<const std::vector<float>> distances;  // per vertex, NaN: not compared
    Similarity source_to_kit;
    double size_ratio = 1;
    FitSettings settings;
    FitFigures figures;
    std::vector<std::string> notes;
    std::optional<Pose> pose;                   // that positions stand in; of whole figures
    std::shared_ptr<const Points> fitted;       // without the touch-up; null: nothing was touched
    std::shared_ptr<const TouchLayer> touch;    // null: none
    bool figures_old = false;                   // figures and distances are of before the last touch
    std::optional<LandmarkSet> landmarks;       // of the source when it was made; not known of old projects
    std::shared_ptr<const VertexMask> ignored;  // the same
    std::shared_ptr<const PhotoRecord> photo;   // null: not made from photographs
    SkinRecord skin;
    FitId id = FitId::make();
};

struct BankEntry {
    std::shared_ptr<const Morph> morph;
    double amount = 0;
    bool muted = false, solo = false, favourite = false;
    MorphId id = MorphId::make();  // stays when another shape takes the morph's place
};

// All sliders at once, by the morphs' names; what is not named is at 0.
struct MixSetting {
    std::map<std::string, double> amounts;
    std::vector<RegionAmount> regions;
    bool operator==(const MixSetting&) const = default;
};

// Portraits of one sitting, as they were delivered.
struct PhotoSet {
    std::string name;
    std::shared_ptr<const std::vector<Image>> photos;  // encoded
    std::vector<PhotoMarks> marks = {};                // per photo; shorter: none yet
    std::optional<PhotoHeadSettings> settings = {};    // of the next head made from them; empty: the usual ones
    PhotoSetId id = PhotoSetId::make();
};

struct Subject {
    std::string name;
    std::vector<Source> sources;
    std::vector<FitRecord> fits;
    std::vector<PhotoSet> photo_sets = {};
    int chosen_fit = -1;  // the try that is worked on; -1: the last one
    SubjectId id = SubjectId::make();

    const FitRecord* fit() const {
        if (fits.empty()) return nullptr;
        return chosen_fit >= 0 && chosen_fit < static_cast<int>(fits.size())
                   ? &fits[static_cast<std::size_t>(chosen_fit)]
                   : &fits.back();
    }
    FitRecord* fit() { return const_cast<FitRecord*>(std::as_const(*this).fit()); }
};

struct ProjectState {
    std::shared_ptr<const BaseKit> kit;
    std::map<std::string, SurfacePoint> base_points;  // landmarks on the base, changed or not
    std::map<std::string, std::vector<SurfacePoint>> base_curves;
    PointSet asked = PointSet::Head;  // how much of the scheme is asked for
    std::vector<Subject> subjects;
    int subject = 0;                             // the one being worked on
    FitSettings settings;                        // of the next fit
    std::vector<BankEntry> bank;                 // no two of one name
    std::vector<RegionAmount> region_mix;        // besides the sliders
    std::shared_ptr<const BaseRegions> regions;  // of the kit; null until somebody mixes by region
    std::optional<MixSetting> mix_a, mix_b;      // two settings kept for comparing and blending
    std::optional<double> between;               // how far the mix stands from A to B; set by that slider alone
    SoftWeights head_share;                      // painted; empty: by the neck band
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
    // last source and chosen fit of the current subject, null when there is none
    const Source* source() const {
        return current() && !current()->sources.empty() ? &current()->sources.back() : nullptr;
    }
    const FitRecord* fit() const { return current() ? current()->fit() : nullptr; }
    // of the sliders, what is muted or not solo at 0
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

ProjectState new_project(std::shared_ptr<const BaseKit> kit);
// A name that no entry of `taken` has: "head scan", "head scan 2", ...
std::string free_name(const std::string& wanted, const std::vector<std::string>& taken);

}  // namespace veld
