#include "core/kit/kit_frame.h"

#include <array>
#include <cmath>
#include <vector>

namespace veld {

Json frame_json(const Similarity& s) {
    const std::vector<double> turn(s.rotation.data(), s.rotation.data() + 9);  // column by column
    return {{"scale", s.scale},
            {"rotation", turn},
            {"translation", {s.translation.x(), s.translation.y(), s.translation.z()}}};
}

Similarity frame_from(const Json& json) {
    Similarity out;
    out.scale = json.at("scale").get<double>();
    const auto turn = json.at("rotation").get<std::array<double, 9>>();
    std::copy(turn.begin(), turn.end(), out.rotation.data());
    const auto move = json.at("translation").get<std::array<double, 3>>();
    std::copy(move.begin(), move.end(), out.translation.data());
    return out;
}

bool is_frame(const Similarity& s) {
    return s.scale > 0 && std::isfinite(s.scale) && s.rotation.isUnitary(1e-6) && s.translation.allFinite();
}

}  // namespace veld
