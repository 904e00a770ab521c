#pragma once
// Where on a surface is a face, and how does it look? All orientations, also lying and upside-down.
//
// The surface is drawn small from many sides and several of the pictures are looked at in one go; what
// the detector proposes the mesh network must confirm. From there the frontal view is approached step
// by step: the points found so far lay the base's face over the surface.
#include "core/base/similarity.h"
#include "core/detect/face_views.h"

namespace veld {

struct FoundFace {
    Similarity to_kit;  // frame of the surface -> kit frame, mm
    double sure = 0;    // of the frontal view, 0..1
};

// look: in any frame. Its +Y up, +Z forward are tried first, then every other attitude; of an elongated
// surface (a figure) both ends are looked at too. Fails with NotFound when nothing is confirmed.
Result<FoundFace> find_face(FaceNetwork& network, const SurfaceLook& look, const FaceReference& reference,
                            const Progress& progress = {});

// Similarity that lays seen points over the base's own, by the points that all views agree on.
Result<Similarity> face_to_kit(const SeenFace& seen, const FaceReference& reference);

}  // namespace veld
