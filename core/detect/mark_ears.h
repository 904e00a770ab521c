#pragma once
// The landmarks and the rim of both ears, read off the ears that were found by their own shape.
#include "core/detect/find_ear.h"

namespace veld {

struct MarkedEar {
    bool seen = false;
    std::string why;                      // not seen: what there is instead; empty: none was looked for
    double lies = 0, covers = 0;          // as FoundEar's
    double rival = 0;                     // the same
    std::map<std::string, Vec3> points;   // by landmark, on the surface
    std::map<std::string, double> clear;  // 0..1: how clean the edge is there; of `tragion` the whole ear's
    Points rim;                           // as the base's curve runs
    double rim_clear = 0;                 // mean
};

// [0]: right, [1]: left. surface: as of find_ear. Not seen when nothing there looks like an ear, or no such part
// is in the kit.
std::array<MarkedEar, 2> mark_ears(const BaseKit& kit, const std::map<std::string, SurfacePoint>& base_points,
                                   const SourceSurface& surface, const Progress& progress = {});

// How far off a point or the rim of such an ear may well be, mm.
double ear_error(const std::string& name, const MarkedEar& ear);

}  // namespace veld
