#pragma once
// A scan as it would look in a light that is known: for judging what is taken out of its colours.
#include "core/base/result.h"
#include "core/mesh/mesh.h"

namespace veld {

struct LitBy {
    Vec3 towards = Vec3(0.5, 0.8, 0.6);  // the lamp, in the mesh's frame
    double strength = 1.5;               // of its light on what faces it, against the light from everywhere
    double spread = 0.03;                // radians: half of the lamp's own width; how soft its shadow is
    double shine = 0;                    // how much of the lamp is mirrored, straight on
    Vec3 tint = {1.0, 0.93, 0.82};       // the lamp's colour against the other light's
    // A round plate that is in no scan, before the lamp: radius 0: none.
    Vec3 plate = Vec3::Zero();
    double plate_radius = 0;
};

// plain: with colours of vertices, in mm; they are taken for the skin's own. What is seen from +z shines. The
// brightest places become just white.
Mesh lit_scan(const Mesh& plain, const LitBy& by);

}  // namespace veld
