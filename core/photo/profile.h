#pragma once
// A head straight from the side, which the networks do not take for a face: found by its outline.
//
// The base's outline from forehead to throat is tried at every place, size and lean, and facing both ways; how
// well the picture's edges run along it decides [Olson & Huttenlocher 1997, oriented edge matching]. The best few
// are followed up as in outline.h: edges along the normals move first the camera, then the shape. One of them is
// believed when nearly all of its outline lies on an edge. The marks are where the bent base has them: near the
// outline about right, inside only roughly.
#include "core/detect/photo_face.h"
#include "core/photo/photo_head.h"

namespace veld {

// space: how heads may differ; null: a smooth one is made. Fails with NotFound and the photograph's name, or with
// Cancelled. Takes seconds; progress is only asked whether it is cancelled.
Result<PhotoDetection> find_profile(const BaseKit& kit, const Photo& photo, const ShapeSpace* space,
                                    const Progress& progress);

// The networks' marks; where they see no face, a profile's. Fails as either.
Result<PhotoDetection> find_on_photo(FaceNetwork& network, const BaseKit& kit, const Photo& photo,
                                     const FaceReference* reference, std::size_t which, const ShapeSpace* space,
                                     const Progress& progress);

}  // namespace veld
