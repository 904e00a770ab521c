#pragma once
// Choosing faces, as a list of steps that can be kept, re-run on a newer scan, and read from a file.
//
// Places and lengths are millimetres in the source's upright frame (Y up, facing +Z), so that a step
// means the same after the file came back in another unit or turned otherwise.
#include "core/base/similarity.h"
#include "core/tidy/change.h"

namespace veld {

enum class SelectKind {
    All,
    None,
    Invert,
    Polygon,    // inside an outline drawn on the screen: lasso or rectangle
    Brush,      // within `radius` of a path on the surface
    Connected,  // everything joined to the face nearest to `place`
    Angle,      // spreads from there over edges that bend less than `degrees`
    Grow,
    Shrink,      // by `rings` of faces
    Colour,      // vertex or texture colour like `colour`, within `tolerance` (0..1, CIELAB/100)
    Components,  // those below `share` of the largest one's area
    Slab,        // between two heights: `place`.y and `place`.y + radius
    Suggest      // likely hair, clothes, furniture (suggest.h); needs the kit
};
enum class Combine { Replace, Add, Remove };

struct SelectStep {
    SelectKind kind = SelectKind::All;
    Combine combine = Combine::Replace;
    bool front_only = false;        // Polygon, Brush: only what the camera sees
    std::array<double, 16> view{};  // Polygon: row-major, upright mm -> clip space
    std::vector<Vec2> outline;      // Polygon: clip space, x and y in -1..1
    Points path;                    // Brush: in upright mm
    std::vector<double> pressure;   // Brush: 0..1 for each place of the path; empty: 1
    double radius = 10;             // mm
    Vec3 towards = Vec3::Zero();    // Brush with front_only: direction to the eye
    Vec3 place = Vec3::Zero();
    double degrees = 30;
    int rings = 1;
    std::array<double, 3> colour{0.5, 0.5, 0.5};  // sRGB 0..1
    double tolerance = 0.12;
    double share = 0.02;
    bool operator==(const SelectStep&) const = default;
};

struct BaseKit;

// Runs the steps on `mesh`. to_mm: mesh -> upright frame. Deterministic. Cancelled: an empty mask.
FaceMask select_faces(const Mesh& mesh, const Similarity& to_mm, const std::vector<SelectStep>& steps,
                      const BaseKit* kit = nullptr, const Progress& progress = {});

// One step on top of a selection that is there.
FaceMask apply_select_step(const Mesh& mesh, const Similarity& to_mm, const FaceMask& before, const SelectStep& step,
                           const BaseKit* kit = nullptr);

// Faces that a camera sees: a depth image is drawn of the whole mesh and faces nearly as near as it
// are in front. view: as in SelectStep. No tree is built, so it serves meshes of any size.
FaceMask seen_faces(const Mesh& mesh, const Similarity& to_mm, const std::array<double, 16>& view);

// 0..1 per vertex for tools that fade: 1 inside, falling over `rings` rings of vertices at the rim;
// brush steps fade with the distance from their path and with pressure.
std::vector<double> selection_weights(const Mesh& mesh, const Similarity& to_mm, const std::vector<SelectStep>& steps,
                                      const FaceMask& faces, int rings = 2);

VertexMask vertices_of(const Mesh& mesh, const FaceMask& faces);
std::size_t count_chosen(const FaceMask& mask);

}  // namespace veld
