#include "core/fit/presets.h"

namespace veld {
namespace {

std::vector<FitPreset> make_presets() {
    std::vector<FitPreset> out;
    out.push_back({"head-scan", "Head scan", "A scanned head with its skin to be seen; fades over the neck", {}});

    // Measured on foreign heads (benchmarks/README.md): where cover was told from skin the usual settings are better.
    FitSettings bust;
    bust.neck_band_mm = 80;
    bust.regions["neck"] = {0, 1, 0, 14};
    bust.regions["skull"] = {0, 1, 0, 10};
    out.push_back(
        {"clothed-bust", "Bust with clothes",
         "Hair, a cap or a collar that was not told from skin: neck and skull are not matched and follow the "
         "face",
         bust});

    // More levels and a stiffer start made one of six such heads better, and took 1.4 to 2.1 times as long.
    FitSettings stylised;
    stylised.match_start_mm = 22;
    stylised.max_angle_degrees = 70;
    stylised.neck_band_mm = 70;
    out.push_back({"stylised", "Stylised sculpt",
                   "Far from the base: long jaws, large ears, a child, a creature. Reaches farther", stylised});

    FitSettings figure;
    figure.part = FitPart::All;
    out.push_back({"body", "Whole figure", "Head and body; the pose is taken out", figure});

    FitSettings points;
    points.use_surface = false;
    out.push_back({"landmarks-only", "Landmarks alone", "No surface: points and guide curves bend the base", points});
    return out;
}

}  // namespace

const std::vector<FitPreset>& fit_presets() {
    static const std::vector<FitPreset> all = make_presets();
    return all;
}

Result<FitSettings> fit_preset(const std::string& name) {
    std::string known;
    for (const FitPreset& p : fit_presets()) {
        if (p.name == name) return p.settings;
        known += (known.empty() ? "" : ", ") + p.name;
    }
    return Error{ErrorCode::BadInput, "There is no preset '" + name + "'. There are: " + known + "."};
}

}  // namespace veld
