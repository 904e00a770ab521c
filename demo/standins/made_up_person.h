#pragma once
// A made-up head scan whose truth is known for every vertex of the base: the kit's surface,
// subdivided, warped smoothly (jaw, nose, brow, cheeks, skull), given fine detail, re-triangulated,
// cut open, made noisy, littered, and moved into a coordinate system of its own. All from a seed.
#include "core/base/similarity.h"
#include "core/kit/base_kit.h"

namespace veld {

struct SubjectOptions {
    unsigned seed = 1;
    double warp_mm = 12.0;   // largest displacement of a single warp
    double detail_mm = 0.5;  // amplitude of the fine detail
    double noise_mm = 0.1;   // standard deviation along the normal
    double landmark_error_mm = 1.0;
    int landmark_count = 40;
    int subdivisions = 4;  // of every quad, per side
    bool holes = true;
    bool stray_parts = true;
    double lowest_y = 1400.0;  // the scan ends here (kit frame)
};

struct SyntheticSubject {
    Mesh scan;                  // in its own unit and axes
    LandmarkSet landmarks;      // with their error, scan coordinates
    Similarity scan_from_mm;    // subject in mm, kit axes -> scan coordinates
    Points truth_mm;            // every vertex of the base, mm, kit axes
    Points surface_mm;          // the true, noise-free surface
    Points surface_on_base_mm;  // the same vertices on the kit's surface, before the warp
    std::vector<Triangle> surface_triangles;
};

SyntheticSubject make_subject(const BaseKit& kit, const SubjectOptions& options);

// A shape of the base, an expression for one, as this person has it: through the same warp, without the detail.
Points worn_by(const BaseKit& kit, const SubjectOptions& options, const Points& shape);

// The kit's texture at the places on the base that vertices came from (surface_on_base_mm). skin: name of
// another person's textures in the kit's folder, empty: the kit's own.
std::vector<Colour> skin_colours(const BaseKit& kit, const Points& on_base, const std::string& skin = {});

struct TruthFigures {
    double face_mean = 0, head_mean = 0;  // vertex to its true place, mm
    double lids_lips_mean = 0, ears_mean = 0;
    double face_surface_median = 0;  // vertex to the true surface, mm
    double face_surface_p95 = 0;
    double eye_worst = 0;  // eyeball centre to its true place, mm
};
// fit_mm: the fit in the subject's own millimetres (kit axes).
TruthFigures compare_with_truth(const BaseKit& kit, const SyntheticSubject& subject, const Points& fit_mm);

}  // namespace veld
