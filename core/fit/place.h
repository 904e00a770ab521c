#pragma once
// First stage of a fit: where the source sits, how it is turned, how big it is.
//
// Similarity from the landmarks (eye corners count three times), then ICP [Besl & McKay 1992;
// Rusinkiewicz & Levoy 2001 for the rejections] on the face.
#include "core/base/progress.h"
#include "core/base/similarity.h"
#include "core/fit/settings.h"
#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"

namespace veld {

struct Placement {
    Similarity source_to_kit;      // file coordinates -> kit frame in mm
    Unit unit = Unit::Millimetre;  // of the source
    std::string unit_reason;       // why we think so
    double size_ratio = 1;         // kit size / true size of the subject (1 when kept)
    std::vector<std::string> notes;
};

struct PlaceInput {
    const BaseKit* kit = nullptr;
    std::map<std::string, SurfacePoint> base_points;  // landmarks on the base
    LandmarkSet source;
    std::optional<Unit> unit;  // empty: guess
    FitPart part = FitPart::Head;
    bool keep_true_size = false;
};

// Fails with DegenerateInput (too few points, on one line) or BadInput (left and right exchanged:
// the message says so, sides_exchanged() tells).
Result<Placement> place_by_landmarks(const PlaceInput& input);

// Are the _l and _r names on the wrong sides? True only when exchanging them fits far better.
bool sides_exchanged(const PlaceInput& input);

// Which landmarks place this part: head points for a head, all for a body.
bool places_part(const std::string& landmark, FitPart part);

// Where to show a source beside the base before anything is known for sure: by its landmarks when
// three or more are marked, else upright as the file has it, sized by the unit, its head at the
// base's head.
Similarity preview_placement(const PlaceInput& input, const Mesh& source);

// Refines by ICP between the kit's matched vertices and the source. `surface` was prepared with
// placement.source_to_kit; the returned similarity maps its frame to the better one.
Similarity refine_by_icp(const BaseKit& kit, const VertexIndices& vertices, const SourceSurface& surface,
                         bool allow_scale, const Progress& progress);

}  // namespace veld
