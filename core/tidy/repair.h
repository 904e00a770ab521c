#pragma once
// Small repairs that change no form: what no tool and no fit can use is taken out, what is turned
// inside out is turned back.
#include "core/tidy/change.h"

namespace veld {

// Faces without area or with a corner twice, faces that repeat an earlier one, vertices in no face.
Changed remove_broken_faces(const Mesh& mesh, const Progress& progress = {});

// Edges with more than two faces: the two faces that continue each other best stay joined, the others
// are cut loose (their vertices are doubled and set off by a hair), so that every edge ends with one or two faces.
// Vertices that hold several fans together are doubled likewise [Gueziec, Taubin, Lazarus, Horn 2001].
Changed split_non_manifold(const Mesh& mesh, const Progress& progress = {});

// Neighbours agree, and closed pieces enclose a positive volume. Open pieces are turned so that they
// face away from their own middle, more area than not.
Changed turn_outward(const Mesh& mesh, const Progress& progress = {});

// Reverses the selected faces (all when empty).
Changed flip_faces(const Mesh& mesh, const FaceMask& selected);

// Writes area-weighted vertex normals into the mesh, one per place: seams do not show.
Changed recompute_normals(const Mesh& mesh);

// Pieces joined through vertices or places. Keeps the largest by area and, unless only_largest, all
// with at least `share` of its area and `size` (longest side of the box, in the mesh's unit).
struct ComponentLimits {
    bool only_largest = false;
    double share = 0.02;  // of the largest piece's area
    double size = 0;      // mesh unit; pieces shorter than this go
};
FaceMask small_components(const Mesh& mesh, const ComponentLimits& limits);
Changed remove_small_components(const Mesh& mesh, const ComponentLimits& limits, const Progress& progress = {});

}  // namespace veld
