#pragma once
// Everything that a fit can be told, with defaults that are right for a head scan.
// Lengths are in millimetres of the kit's frame. Kept with every fit; JSON form in docs/formats.md.
#include <map>
#include <string>

#include "core/base/types.h"

namespace veld {

enum class FitPart { Head, Body, All };
const char* fit_part_name(FitPart part);

struct RegionSetting {
    double match = 1.0;      // 0: this region only follows, 1: it is pulled onto the source
    double stiffness = 1.0;  // factor on the bending stiffness
    double keep = 0.0;       // 1: it stays where the base has it; between: pulled back there
    double smooth_mm = 0.0;  // never follows forms smaller than this; 0: as the rest
    bool operator==(const RegionSetting&) const = default;
};

struct FitSettings {
    FitPart part = FitPart::Head;
    bool keep_true_size = false;  // place without scaling; the source's unit must be right
    bool take_pose_out = true;    // of a whole figure: bend the skeleton first, hand the shape out at rest
    bool shut_mouth = true;       // of a head: hand the shape out with its mouth shut and its eyes open
    bool known_heads = true;      // of a head: begin with the most likely of the heads that the kit knows
    bool use_surface = true;      // false: only points and guide curves shape the fit
    bool use_curves = true;
    double landmark_strength = 1.0;  // 0: landmarks only place the source
    double curve_strength = 1.0;
    double smooth_start_mm = 70.0;                   // wavelength-like length below which the first pass is rigid
    double smooth_end_mm = 1.4;                      // the same for the last pass: small follows detail and noise
    int levels = 14;                                 // geometric steps between the two
    int iterations = 3;                              // match-and-solve rounds on each level
    double match_start_mm = 16.0;                    // distance at which a match counts a quarter, first level
    double match_end_mm = 1.2;                       // the same, last level
    double max_angle_degrees = 62.0;                 // between the base's and the source's normal
    double neck_band_mm = 55.0;                      // head fits fade to the untouched body over this length
    double symmetry = 0.0;                           // 0: as the subject is; 1: both sides their mean
    double region_fade_mm = 8.0;                     // over which a region's setting fades into its surroundings
    std::map<std::string, RegionSetting> regions;    // by the kit's region names or those painted
    std::map<std::string, SoftWeights> own_regions;  // painted on the base for this subject
    bool operator==(const FitSettings&) const = default;
};

}  // namespace veld
