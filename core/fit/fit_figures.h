#pragma once
// The figures of a fit as data, kept with it; figures.h measures them.
//
// Distances are in mm of the kit's frame. Distortion compares each face with the base's own after taking the fit's
// mean size change out: 1 means unchanged.
#include <map>
#include <string>
#include <vector>

#include "core/base/types.h"

namespace veld {

struct DistanceFigures {
    double median = 0, p95 = 0, max = 0;
    Index vertices = 0;
    bool operator==(const DistanceFigures&) const = default;
};

// What speaks against a region of a fit; region_doubt.h measures it.
struct RegionSigns {
    double guessed = 0;   // share of what can be seen of it, by area, that matched nothing: it follows from the rest
    double unlikely = 0;  // root mean square over the region of the way to the most likely head, in deviations of it
    double not_skin = 0;  // share of what was matched that likely is no skin
    double marks = 0;     // mm: how far its points and curves may be off, as they say themselves; median
    double apart = 0;     // mm: how far they lie from the fit; median
    double surface = 0;   // mm: 95 % of the matched distances
    double bent = 0;      // 95 % of |log2| of its triangles' areas against the base's, its own size taken out
    double cuts = 0;      // new self-intersections and flipped faces in it
    bool operator==(const RegionSigns&) const = default;
};
enum class DoubtReason { None, Guessed, Unlikely, NotSkin, Marks, Folds };
const char* doubt_reason_name(DoubtReason reason);  // "guessed"
struct RegionDoubt {
    RegionSigns signs;
    double wrong = 0;  // 0..1: likelihood that a look would send the region back
    DoubtReason why = DoubtReason::None;
    bool operator==(const RegionDoubt&) const = default;
};

// What says how sure the rest shape of a figure's region is; rest_doubt.h measures it.
struct RestSigns {
    double guessed = 0;  // share of its vertices that matched nothing
    double uneven = 0;   // mm: root mean square of half the way to its mirror image, at rest
    double build = 0;    // mm: the same to the base's own shape, laid on it
    double left = 0;     // mm: the same to what pose and build make of the base
    double turned = 0;   // degrees, of all joints from the first one to its own
    bool operator==(const RestSigns&) const = default;
};
struct RestDoubt {
    RestSigns signs;
    double expected_mm = 0;  // how far it may be off, root mean square
    bool operator==(const RestDoubt&) const = default;
};

struct FitFigures {
    double landmark_rms = 0, landmark_max = 0;
    std::map<std::string, double> landmark_mm;        // residual of each point that was used
    double curve_rms = 0;                             // of all curve points, to their polyline
    std::map<std::string, double> curve_mm;           // the same of each guide curve that was used
    DistanceFigures surface;                          // fit -> source over the matched regions
    std::map<std::string, DistanceFigures> regions;   // the same for each region
    std::map<std::string, RegionDoubt> doubts;        // of heads: face, lids, lips, ears, skull, neck
    std::map<std::string, RestDoubt> rest;            // of figures whose pose was taken out: regions of the body
    DistanceFigures source_to_fit;                    // of source points near the matched regions
    double coverage = 0;                              // matched share of the area that wants a match
    Index flipped_faces = 0, self_intersections = 0;  // the latter: not yet there on the base
    VertexIndices flipped_at, cut_at;                 // a vertex of each, to go and look at; at most kMostFaults
    double edge_p95 = 1, edge_max = 1;                // longest/base length ratio, or its inverse
    double area_p95 = 1, area_max = 1;
    double angle_p95 = 0, angle_max = 0;    // degrees
    double symmetry_mm = 0;                 // mean |x - mirrored partner| over the skin
    std::map<std::string, double> seconds;  // per stage
    double peak_memory_mb = 0;
    int repaired_vertices = 0;
};

std::string figures_text(const FitFigures& figures);  // JSON
// Reads back what figures_text wrote; unknown keys are ignored.
FitFigures parse_figures(const std::string& json);

}  // namespace veld
