#pragma once
// A made-up body scan whose truth is known: the kit's figure with other bones and girths, in a pose, as a scanner
// would hand it over. Its skin is bent by dual quaternions [Kavan et al. 2008], not as the program bends it. All from
// a seed.
#include "core/base/similarity.h"
#include "core/kit/base_kit.h"

namespace veld {

enum class Build { Adult, Heavy, Muscular, Child, Old, Tall, Lean, Stylised };
enum class Stand { AsBuilt, Hanging, Level, Wide, OneRaised, Sitting };
const char* build_name(Build build);
const char* stand_name(Stand stand);

struct FigureOptions {
    unsigned seed = 1;  // build, stand, hands, unit and attitude by it; the first twelve have every one of each
    double cell_mm = 4.5;
    bool any_frame = true;  // turned about the vertical, off centre, in any unit, Y or Z up
};

struct MadeUpFigure {
    Build build = Build::Adult;
    Stand stand = Stand::AsBuilt;
    bool fists = false;
    // truth: every vertex of the base and every joint, mm; standing as the kit stands, feet on the floor
    Points rest, rest_joints;
    Pose pose;  // turns about rest_joints
    // in the pose, mm
    Points posed, posed_joints;
    Mesh scan;
    Similarity scan_from_mm;                // posed -> scan
    std::map<std::string, Vec3> landmarks;  // scan coordinates
};

MadeUpFigure make_figure(const BaseKit& kit, const FigureOptions& options);

// The joints of the figure with these rest places.
std::vector<Joint> joints_at(const BaseKit& kit, const Points& places);

}  // namespace veld
