#pragma once
// What a subject is made from: a scan or sculpt, or a set of photographs.
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/base/id.h"
#include "core/base/similarity.h"
#include "core/landmark/landmark_set.h"
#include "core/tidy/step.h"

namespace veld {

struct Image;
struct Mesh;
struct PhotoHeadSettings;  // photo/head_record.h
struct PagedMesh;          // a mesh that waits on the disk (pager.h)

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
    // The same: what detection took for no skin, though it may be matched by now.
    std::shared_ptr<const VertexMask> not_skin;
    std::vector<TidyStep> recipe;          // what was done to it since it was read
    std::vector<std::string> recipe_said;  // parallel: what each step did
    std::string stamp;                     // of the file when it was read
    std::shared_ptr<PagedMesh> paged;      // set while `mesh` is null: only in states of the past
    std::vector<SelectStep> selection;     // what is selected for the next tool; undone like anything else, not saved
    SourceId id = SourceId::make();
};

// Portraits of one sitting, as they were delivered.
struct PhotoSet {
    std::string name;
    std::shared_ptr<const std::vector<Image>> photos;        // encoded
    std::vector<PhotoMarks> marks = {};                      // per photo; shorter: none yet
    std::shared_ptr<const PhotoHeadSettings> settings = {};  // of the next head made from them; null: the usual ones
    PhotoSetId id = PhotoSetId::make();
};

}  // namespace veld
