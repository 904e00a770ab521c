#include "core/morph/drivers.h"

#include <algorithm>

namespace veld {

double driven_share(const std::vector<MorphDriver>& drivers, const Driving& driving) {
    double out = 1;
    for (const MorphDriver& d : drivers) {
        double share = 0;
        if (!d.joint.empty()) {
            const auto at = driving.turns.find(d.joint);
            if (at != driving.turns.end() && !d.turn.isZero(0))
                share = std::min(1.0, at->second.dot(d.turn) / d.turn.squaredNorm());
        } else if (const auto at = driving.amounts.find(d.morph); at != driving.amounts.end()) {
            share = at->second / d.whole;
        }
        out *= std::max(0.0, share);
    }
    return out;
}

std::string driver_names(const std::vector<MorphDriver>& drivers) {
    std::string out;
    for (const MorphDriver& d : drivers) out += (out.empty() ? "" : ", ") + (d.joint.empty() ? d.morph : d.joint);
    return out;
}

}  // namespace veld
