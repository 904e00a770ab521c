#pragma once
// The marks of one scan on another scan of the same subject.
#include "core/base/similarity.h"
#include "core/landmark/landmarks.h"
#include "core/spatial/surface_query.h"

namespace veld {

struct CopyMarks {
    const LandmarkSet* from = nullptr;
    Similarity from_upright, to_upright;    // each scan's coordinates -> the upright frame, mm
    const SurfaceQuery* surface = nullptr;  // of the scan they are copied to, in its coordinates
};
// Puts what `into` lacks: laid over by the points that both have (three or more), else as both stand upright;
// then onto the surface, at most 20 mm away. Returns how many points and curves were put.
int copy_marks(const CopyMarks& what, LandmarkSet& into);

}  // namespace veld
