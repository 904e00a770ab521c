#pragma once
// A stand-in for the sculpting program outside: seeded sculpts on any mesh, and the damages that meshes come back
// with. It knows nothing of the kit; what it does depends on the mesh and the seed alone.
#include "core/io/mesh_file.h"

namespace veld {

// "brow", "jaw", "nose", "bulk", "ripple", "none"; strength scales it (1: up to about 12 mm on a head in mm).
// Works in the mesh's own unit and axes: sizes are shares of its height.
std::vector<std::string> sculpt_names();
Status sculpt(Mesh& mesh, const std::string& name, unsigned seed, double strength);

struct Damage {
    const char* name;
    const char* about;
};
const std::vector<Damage>& damages();
// "reorder", "zup", "metres", "centimetres", "mirror", "turn", "triangulate", "split", "subdivide", "lose-part",
// "no-uvs", "inside-out", "explode", "noise", "extra", "digits", "groups-lost".
Status damage(Mesh& mesh, const std::string& name, unsigned seed);

}  // namespace veld
