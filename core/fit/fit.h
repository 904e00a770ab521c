#pragma once
// A whole fit: place, take the pose (of whole figures), wrap, follow, measure. The one call behind the window's button and
// `veldstone-cli wrap`.
#include "core/fit/figures.h"
#include "core/fit/place.h"
#include "core/rig/pose.h"

namespace veld {

struct FitInput {
    const BaseKit* kit = nullptr;
    std::map<std::string, SurfacePoint> base_points;  // empty: the kit's own
    const Mesh* source = nullptr;                     // in its file's unit and axes
    LandmarkSet landmarks;                            // in the source's coordinates
    std::optional<Unit> unit;                         // empty: guess
    FitSettings settings;
    const std::vector<std::uint8_t>* ignored = nullptr;   // null, or one per vertex of the source: never matched
    std::map<std::string, std::vector<SurfacePoint>> base_curves = {};   // empty: the kit's own
};

struct FitResult {
    Points positions;               // every vertex of the base mesh, kit frame, mm
    Placement placement;
    FitSettings settings;
    FitFigures figures;
    std::vector<float> distances;   // per vertex, mm to the source, NaN where not compared
    WrapTimes times;
    std::vector<std::string> notes;
    std::optional<Pose> pose;       // what the kit's skeleton was bent to; positions stand in it
};

// The shape without the pose that it was fitted in: each vertex back by its own turn, bones as long as the
// subject's, the lowest place as low as the base's (feet on the floor). Without a pose: as it is.
Points at_rest(const BaseKit& kit, const Points& positions, const std::optional<Pose>& pose);

// Cancelled: ErrorCode::Cancelled. Deterministic: the same input gives the same positions.
Result<FitResult> run_fit(const FitInput& input, const Progress& progress);

// Figures of a shape that was changed since it was fitted, at the same placement and settings. Of a posed
// fit the kit is posed_kit().
Result<FitFigures> measure_again(const FitInput& input, const Similarity& source_to_kit, const Points& positions, std::vector<float>* distances, const Progress& progress);

// The fit in the source's own coordinates and unit.
Points in_source_frame(const FitResult& fit);

// Per vertex 0..1: how much a head fit may move it; 0 at and below the neck ring, 1 above the band.
std::vector<double> head_fade(const BaseKit& kit, double band_mm);

}  // namespace veld
