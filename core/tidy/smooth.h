#pragma once
// Making noise, bumps and spikes go while the form stays.
#include "core/tidy/change.h"

namespace veld {

struct SmoothOptions {
    int rounds = 10;
    double strength = 1;       // 0..1
    bool keep_borders = true;  // open borders stay where they are
};
// Steps forth and back [Taubin 1995], so that the volume stays. weight: 0..1 per vertex.
Changed smooth_keeping_volume(const Mesh& mesh, const std::vector<double>& weight, const SmoothOptions& options,
                              const Progress& progress = {});

// Selected vertices (weight > 0) are laid on the smoothest surface that continues what is around them in
// position and slope (least bending, [Botsch & Kobbelt 2004]); `strength` goes part of the way.
// Fails with BadInput when nothing around the choice is left to hold it.
Result<Changed> flatten_bumps(const Mesh& mesh, const std::vector<double>& weight, double strength,
                              const Progress& progress = {});

// A spike stands further off the mean of its neighbours than `factor` times the mesh's usual such
// distance, and further than its own edges' usual length. It is put back among its neighbours.
Changed remove_spikes(const Mesh& mesh, double factor, const VertexMask& selected, const Progress& progress = {});

}  // namespace veld
