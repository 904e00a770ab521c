#pragma once
// Which mix of a person's expressions a scan shows: rigid motion known, amounts found.
#include "core/fit/source_surface.h"
#include "core/kit/base_kit.h"
#include "core/landmark/landmark_set.h"

namespace veld {

struct MixTold {
    const BaseKit& person;                  // its mesh is the neutral face, its expressions are the person's
    Similarity held;                        // neutral -> placed scan
    const SourceSurface& surface;           // of the placed scan
    std::map<std::string, Vec3> landmarks;  // of the placed scan
    VertexIndices skin;                     // that the scan may show
};

// An amount for each of the person's expressions, in the order of their names, 0 to somewhat beyond 1: Gauss-Newton,
// landmarks first, then distances to the surface along its normals as well [Weise, Bouaziz, Li, Pauly 2011], large
// ones counting less, all amounts a little held back.
std::vector<double> nearest_amounts(const MixTold& told);

// The person with that mix as the base's shape; expressions go on from there.
BaseKit person_with(const BaseKit& person, const std::vector<double>& amounts);

}  // namespace veld
