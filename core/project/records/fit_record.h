#pragma once
// A fit as the project keeps it: the shape, what it was made from and with, and how good it is.
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/base/id.h"
#include "core/base/similarity.h"
#include "core/fit/fit_figures.h"
#include "core/fit/settings.h"
#include "core/landmark/landmark_set.h"
#include "core/rig/rig.h"

namespace veld {

struct PhotoRecord;  // photo_record.h
struct TouchLayer;

struct FitRecord {
    std::string name;
    std::string source;                                   // what it was made from, by the name it had then: for people
    SourceId source_id;                                   // the scan or sculpt that it was fitted to; none: it was not
    PhotoSetId photo_set_id;                              // the photographs that it was made from; none: it was not
    std::shared_ptr<const Points> positions;              // kit frame, mm; the touch-up included
    std::shared_ptr<const std::vector<float>> distances;  // per vertex, NaN: not compared
    std::shared_ptr<const std::vector<float>> guessed;    // FitResult::guessed; null: nobody knows
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
    FitId id = FitId::make();
};

}  // namespace veld
