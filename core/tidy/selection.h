#pragma once
// Choosing faces, as a list of steps that can be kept, re-run on a newer scan, and read from a file.
//
// Places and lengths are millimetres in the source's upright frame (Y up, facing +Z), so that a step
// means the same after the file came back in another unit or turned otherwise.
#include "core/base/similarity.h"
#include "core/tidy/change.h"
#include "core/tidy/step.h"

namespace veld {

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
std::size_t count_selected(const FaceMask& mask);

}  // namespace veld
