#pragma once
// A whole fit: place, take the pose (of whole figures), wrap, follow, measure. The one call behind the window's button
// and `veldstone-cli wrap`.
#include "core/base/similarity.h"
#include "core/fit/figures.h"
#include "core/fit/lids.h"
#include "core/fit/likely_head.h"
#include "core/fit/place.h"
#include "core/rig/pose.h"

namespace veld {

// What stays the same from one try to the next and takes a moment to make.
struct BaseCreases {
    std::vector<double> open;  // per vertex, openness() of the kit as the pose bends it
    std::vector<ContactPair> contacts;
    std::vector<std::pair<Index, Index>> cuts;  // of the skin's triangles with themselves
};
struct FitCache {
    std::shared_ptr<const SourceSurface> surface;  // at the fit's placement
    std::shared_ptr<const BaseCreases> creases;
    std::shared_ptr<const LikelyHead> likely;  // null: none was asked for, or the kit knows no heads
};

struct FitInput {
    const BaseKit* kit = nullptr;
    std::map<std::string, SurfacePoint> base_points;  // empty: the kit's own
    const Mesh* source = nullptr;  // in its file's unit and axes; may be null when settings.use_surface is false
    LandmarkSet landmarks;         // in the source's coordinates
    std::optional<Unit> unit;      // empty: guess
    FitSettings settings;
    const VertexMask* ignored = nullptr;  // null, or one per vertex of the source: never matched
    std::map<std::string, std::vector<SurfacePoint>> base_curves = {};  // empty: the kit's own
    std::optional<double> jaw_degrees = {};  // how far the source's jaw is down; empty: the marked lips tell
    std::optional<LidsShut> lids = {};       // how far its eyes are shut; empty: the marked lids tell
    const VertexMask* not_skin =
        nullptr;                        // null, or one per vertex of the source: likely no skin, though it is matched
    std::vector<PointPull> hints = {};  // more places, roughly: only what head is likely is told by them; targets
                                        // in the source's coordinates
};

struct FitResult {
    Points positions;  // every vertex of the base mesh, kit frame, mm
    Placement placement;
    FitSettings settings;
    FitFigures figures;
    std::vector<float> distances;  // per vertex, mm to the source, NaN where not compared
    // Per vertex, where nothing of the source was matched and the shape follows from the rest of the head: mm, one
    // deviation of the true place. NaN elsewhere; empty where the kit knows no heads.
    std::vector<float> guessed;
    WrapTimes times;
    std::vector<std::string> notes;
    std::optional<Pose> pose;  // what the kit's skeleton or its jaw was bent to; positions stand in it
    FitCache cache;            // for a refit
};

// The shape without the pose that it was fitted in: each vertex back by its own turn, bones as long as the
// subject's, the lowest place as low as the base's (feet on the floor). Of a head with its mouth open or its eyes
// shut: with the mouth shut (jaw.h) and the eyes open (lids.h), unless shut_mouth is off. Without a pose: as it is.
Points at_rest(const BaseKit& kit, const Points& positions, const std::optional<Pose>& pose, bool shut_mouth = true);

// Cancelled: ErrorCode::Cancelled. Deterministic: the same input gives the same positions.
Result<FitResult> run_fit(const FitInput& input, const Progress& progress);

// A fit to go on from: its result and what it was made with.
struct FitStart {
    const Points* positions = nullptr;  // as the fit gave them, kit frame
    Placement placement;
    std::optional<Pose> pose;
    FitSettings settings;
    LandmarkSet landmarks;
    const VertexMask* ignored = nullptr;
    FitCache cache;  // empty: made anew
};
// The fit carried on after a landmark, an ignored area or a setting changed, at the same placement. What lies
// within reach of the change is solved again, coarse to fine; when that is most of the surface, or a setting of
// the whole changed, all of it in fewer rounds. Another part, size or pose is a new fit. *solved: share of the
// moving vertices that was solved again (may be null).
Result<FitResult> refit(const FitInput& input, const FitStart& start, const Progress& progress,
                        double* solved = nullptr);

// Figures of a shape that was changed since it was fitted, at the same placement and settings. Of a posed
// fit the kit is posed_kit(), as is `pose` then.
Result<FitFigures> measure_again(const FitInput& input, const Similarity& source_to_kit,
                                 const std::optional<Pose>& pose, const Points& positions,
                                 std::vector<float>* distances, const Progress& progress);

// The fit in the source's own coordinates and unit.
Points in_source_frame(const FitResult& fit);

// Both sides brought towards their mean by the kit's mirror map and the plane x = 0: 0 nothing, 1 all the way.
// Only where `moving` is set on both sides. Of a posed figure at rest.
void make_symmetric(const BaseKit& kit, const VertexMask& moving, const std::optional<Pose>& pose, double amount,
                    Points& positions);

}  // namespace veld
