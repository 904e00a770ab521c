#pragma once
// From which pose a figure is bent: limbs that are far from the kit's find no counterpart by themselves, so stances
// that people are scanned in are tried, and what lies nearest goes on.
#include "core/base/progress.h"
#include "core/fit/pose_solver.h"
#include "core/fit/source_surface.h"

namespace veld {

// A place of the kit that is known on the figure.
struct PosePull {
    SurfacePoint place;
    Vec3 target = Vec3::Zero();  // in the surface's frame
    double weight = 1;           // less where the place is not sure (trust_weight)
};

// Sets the solver to the likeliest of: standing, legs apart, sitting; each arm as the kit's, hanging, level, raised,
// in the lap; as tall as the surface or the head tell. head: pulls of the head, which say where it is; with fewer
// than three the solver stays as it is. False: cancelled.
bool choose_start(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& head,
                  PoseSolver& solver, const Progress& progress);

// Once the trunk lies right: whether an arm lies clearly nearer in another of these ways; the solver is set to it
// then.
bool choose_arms(const BaseKit& kit, const SourceSurface& surface, PoseSolver& solver);

// Each finger of both hands bent as the surface shows it: open, half shut or a fist, what lies nearest after a few
// rounds. pulls: known places of the hands.
void bend_fingers(const BaseKit& kit, const SourceSurface& surface, const std::vector<PosePull>& pulls,
                  PoseSolver& solver);

}  // namespace veld
