#pragma once
// Where an eye, a nostril or a mouth's corner is in a photograph, by how the base's own looks from there.
//
// The camera and the shape are known within some millimetres; the base is drawn around the feature and moved over the
// photograph. What is compared is the direction of edges, whichever side is brighter and however strong they are
// [Fitch, Kadyrov, Christmas, Kittler 2002, orientation correlation], so that light and complexion matter little.
#include "core/io/surface_colour.h"
#include "core/kit/base_kit.h"
#include "core/photo/outline.h"

namespace veld {

// Landmarks that move together.
struct Feature {
    std::string region;  // of the landmark scheme
    std::vector<std::string> names;
    double half_mm = 15, reach_mm = 8;  // of the square that is compared; how far it may be off
};

struct FeatureFound {
    Feature feature;
    Vec2 shift = Vec2::Zero();  // pixels, from where shape and camera have it
    double match = 0;           // 1: every edge runs alike; about 0.1 for what is unlike
    double second = 0;          // the best match elsewhere within reach
};

class Likeness {
 public:
    explicit Likeness(const BaseKit& kit);
    // shape: as posed; of the features those with a landmark that the camera sees.
    std::vector<FeatureFound> find(const std::vector<Feature>& features, const Points& shape,
                                   const PhotoCamera& camera, const EdgePicture& picture) const;

 private:
    const BaseKit& kit_;
    SurfaceColour colour_;
    std::vector<Triangle> solid_;
    TriangleIndices fan_;  // their numbers in the kit's triangulation
};

}  // namespace veld
