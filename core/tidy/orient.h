#pragma once
// How a source stands: unit, axes, upright placement.
//
// The upright frame is the kit's: millimetres, Y up, facing +Z, a figure's soles at y = 0. A source
// keeps its own coordinates; the similarity found here leads from them to the upright frame.
#include "core/base/progress.h"
#include "core/base/similarity.h"
#include "core/io/mesh_file.h"
#include "core/kit/base_kit.h"
#include "core/landmark/landmarks.h"

namespace veld {

// A whole figure, not a head or a bust: by its proportions (subject_kind.h), or because it is taller than any bust.
constexpr double kFigureMm = 1200;
bool is_figure(const Points& positions, double mm_per_unit);

struct FrameGuess {
    Unit unit = Unit::Millimetre;
    UpAxis up = UpAxis::PlusY;
    std::string unit_reason, up_reason;  // "the file says so", "1.74 tall is a figure in metres"
};
// path: its ending tells for formats with a fixed unit and axis. landmarks may be empty.
FrameGuess guess_frame(const Mesh& mesh, const std::string& path, const LandmarkSet& landmarks);

// Unit and axis only; the box stands on the floor when it is as tall as a figure, else its top is at
// `top_mm` (the kit's crown); centred on x = z = 0.
Similarity rough_upright(const Mesh& mesh, Unit unit, UpAxis up, double top_mm);

// Two points of the floor: the line between them becomes level and lies at y = 0.
Result<Similarity> level_by_floor(const Similarity& now, const Vec3& a, const Vec3& b);

// A copy in the upright frame, to be written; normals of the file are left out, they would not fit.
Mesh upright_copy(const Mesh& mesh, const Similarity& to_upright);

// Crown of a figure of usual height, where no kit says it; only decides where a head is put.
constexpr double kUsualCrownMm = 1740;

// Turns about the middle of what is seen; degrees about x, y, z, applied in that order.
Similarity turned(const Similarity& now, const Vec3& about, const Vec3& degrees);
Similarity moved(const Similarity& now, const Vec3& by_mm);
// Lowest point to y = 0, middle to x = z = 0.
Similarity on_the_floor(const Mesh& mesh, const Similarity& now);

}  // namespace veld
