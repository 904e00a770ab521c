#pragma once
// What brings a morph in by itself: a correction that belongs to an expression of one head, or to a bent joint.
#include <map>
#include <string>
#include <vector>

#include "core/base/types.h"

namespace veld {

// One factor of a morph's amount: its slider is multiplied by all of them.
struct MorphDriver {
    std::string morph;  // with another morph, or an expression of the kit, by name: whole at `whole`, nothing at 0
    double whole = 1;
    std::string joint;         // or with a joint by name: whole where it is turned by `turn`, nothing at rest
    Vec3 turn = Vec3::Zero();  // against its parent, axis times angle, radians
    bool operator==(const MorphDriver&) const = default;
};

// What drivers look at: amounts of morphs and expressions, turns of joints. What is not named is at 0.
struct Driving {
    std::map<std::string, double> amounts;
    std::map<std::string, Vec3> turns;
};

// At least 0; a joint brings in no more than the whole, a morph goes on beyond it. No drivers: 1.
double driven_share(const std::vector<MorphDriver>& drivers, const Driving& driving);

// "warden, blink, forearm_l"; empty: none
std::string driver_names(const std::vector<MorphDriver>& drivers);

}  // namespace veld
