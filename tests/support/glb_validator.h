#pragma once
// What the Khronos validator says of a GLB.
#include <cstdlib>
#include <fstream>
#include <string>

#include <nlohmann/json.hpp>

namespace veld {

inline nlohmann::json glb_report(const std::string& glb) {
    const std::string out = glb + ".report.json", tool = std::string(VELDSTONE_SOURCE) + "/tests/npm/validate.js";
    if (std::system(("node '" + tool + "' '" + glb + "' > '" + out + "'").c_str()) != 0)
        return {{"numErrors", -1}, {"numWarnings", -1}};
    return nlohmann::json::parse(std::ifstream(out));
}

}  // namespace veld
