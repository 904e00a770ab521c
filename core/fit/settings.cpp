#include "core/fit/settings_text.h"

#include <algorithm>
#include <cmath>

#include "core/base/json.h"

namespace veld {
namespace {

struct NumberField {
    const char* name;
    double FitSettings::*value;
    double low, high;
};
struct SwitchField {
    const char* name;
    bool FitSettings::*value;
};
constexpr SwitchField kSwitches[] = {
    {"keep_true_size", &FitSettings::keep_true_size}, {"take_pose_out", &FitSettings::take_pose_out},
    {"shut_mouth", &FitSettings::shut_mouth},         {"known_heads", &FitSettings::known_heads},
    {"use_surface", &FitSettings::use_surface},       {"use_curves", &FitSettings::use_curves},
};
struct RegionField {
    const char* name;
    double RegionSetting::*value;
    double high;
};
constexpr RegionField kRegionNumbers[] = {
    {"match", &RegionSetting::match, 1},
    {"keep", &RegionSetting::keep, 1},
    {"stiffness", &RegionSetting::stiffness, 1e6},
    {"smooth_mm", &RegionSetting::smooth_mm, 2000},
};
constexpr NumberField kNumbers[] = {
    {"landmark_strength", &FitSettings::landmark_strength, 0, 100},
    {"curve_strength", &FitSettings::curve_strength, 0, 100},
    {"smooth_start_mm", &FitSettings::smooth_start_mm, 0.05, 2000},
    {"smooth_end_mm", &FitSettings::smooth_end_mm, 0.05, 2000},
    {"match_start_mm", &FitSettings::match_start_mm, 0.01, 1000},
    {"match_end_mm", &FitSettings::match_end_mm, 0.01, 1000},
    {"max_angle_degrees", &FitSettings::max_angle_degrees, 1, 180},
    {"neck_band_mm", &FitSettings::neck_band_mm, 1, 500},
    {"symmetry", &FitSettings::symmetry, 0, 1},
    {"region_fade_mm", &FitSettings::region_fade_mm, 0, 200},
};

Error bad_setting(const std::string& where, const std::string& why) {
    return {ErrorCode::BadInput, where + ": " + why};
}

bool in_range(const Json& j, double low, double high, double& out) {
    if (!j.is_number()) return false;
    out = j.get<double>();
    return std::isfinite(out) && out >= low && out <= high;
}

Status read_region(const std::string& name, const Json& j, const std::string& where, RegionSetting& out) {
    if (!j.is_object())
        return bad_setting(where, "region '" + name + "' is not an object with match, keep, stiffness and smooth_mm.");
    for (const auto& [key, value] : j.items()) {
        const auto field = std::find_if(std::begin(kRegionNumbers), std::end(kRegionNumbers),
                                        [&](const RegionField& f) { return key == f.name; });
        if (field == std::end(kRegionNumbers))
            return bad_setting(where, "region '" + name + "' has the unknown setting '" + key + "'.");
        if (!in_range(value, 0, field->high, out.*field->value))
            return bad_setting(where, "region '" + name + "': '" + key + "' must be between 0 and " +
                                          std::to_string(field->high) + ".");
    }
    return Done{};
}

Status read_own_region(const std::string& name, const Json& j, const std::string& where, SoftWeights& out) {
    const bool lists = j.is_object() && j.contains("vertices") && j.contains("weights") && j["vertices"].is_array() &&
                       j["weights"].is_array();
    if (!lists || j["vertices"].size() != j["weights"].size())
        return bad_setting(
            where, "the painted region '" + name + "' needs 'vertices' and 'weights', lists of the same length.");
    for (std::size_t i = 0; i < j["vertices"].size(); ++i) {
        const Json& vertex = j["vertices"][i];
        double weight = 0;
        if (!vertex.is_number_unsigned() || vertex.get<std::uint64_t>() >= kNone)
            return bad_setting(where, "the painted region '" + name + "': entry " + std::to_string(i) +
                                          " of 'vertices' is no vertex number.");
        if (!in_range(j["weights"][i], 0, 1, weight))
            return bad_setting(where, "the painted region '" + name + "': entry " + std::to_string(i) +
                                          " of 'weights' must be between 0 and 1.");
        const Index v = vertex.get<Index>();
        if (!out.vertex.empty() && v <= out.vertex.back())
            return bad_setting(where, "the painted region '" + name + "': 'vertices' must rise, each only once.");
        if (weight <= 0) continue;
        out.vertex.push_back(v);
        out.weight.push_back(static_cast<float>(weight));
    }
    return Done{};
}

// Everything that is not one number.
Status read_other(const std::string& key, const Json& value, const std::string& where, FitSettings& out) {
    double number = 0;
    if (key == "part") {
        for (const FitPart part : {FitPart::Head, FitPart::Body, FitPart::All}) {
            if (value == fit_part_name(part)) return out.part = part, Done{};
        }
        return bad_setting(where, "'part' must be head, body or all.");
    }
    if (key == "levels" || key == "iterations") {
        if (!in_range(value, 1, 100, number)) return bad_setting(where, "'" + key + "' must be between 1 and 100.");
        (key == "levels" ? out.levels : out.iterations) = static_cast<int>(number);
        return Done{};
    }
    if ((key == "regions" || key == "own_regions") && value.is_object()) {
        for (const auto& [name, region] : value.items()) {
            auto ok = key == "regions" ? read_region(name, region, where, out.regions[name])
                                       : read_own_region(name, region, where, out.own_regions[name]);
            if (!ok) return ok;
        }
        return Done{};
    }
    return bad_setting(where, "there is no setting '" + key + "'.");
}

}  // namespace

const char* fit_part_name(FitPart part) {
    return part == FitPart::Head ? "head" : part == FitPart::Body ? "body" : "all";
}

std::string fit_settings_text(const FitSettings& s) {
    Json json;
    json["part"] = fit_part_name(s.part);
    for (const SwitchField& f : kSwitches) json[f.name] = s.*f.value;
    for (const NumberField& f : kNumbers) json[f.name] = s.*f.value;
    json["levels"] = s.levels;
    json["iterations"] = s.iterations;
    json["regions"] = Json::object();
    for (const auto& [name, r] : s.regions) {
        for (const RegionField& f : kRegionNumbers) json["regions"][name][f.name] = r.*f.value;
    }
    if (!s.own_regions.empty()) json["own_regions"] = Json::object();
    for (const auto& [name, r] : s.own_regions)
        json["own_regions"][name] = {{"vertices", r.vertex}, {"weights", r.weight}};
    return json.dump();
}

Result<FitSettings> parse_fit_settings(std::string_view text, const std::string& where) {
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (json.is_discarded() || !json.is_object()) return bad_setting(where, "the settings are no JSON object.");
    FitSettings out;
    for (const auto& [key, value] : json.items()) {
        const auto number = std::find_if(std::begin(kNumbers), std::end(kNumbers),
                                         [&](const NumberField& f) { return key == f.name; });
        const auto is_switch = std::find_if(std::begin(kSwitches), std::end(kSwitches),
                                            [&](const SwitchField& f) { return key == f.name; });
        if (number != std::end(kNumbers)) {
            if (!in_range(value, number->low, number->high, out.*number->value)) {
                return bad_setting(where, "'" + key + "' must be a number between " + std::to_string(number->low) +
                                              " and " + std::to_string(number->high) + ".");
            }
        } else if (is_switch != std::end(kSwitches)) {
            if (!value.is_boolean()) return bad_setting(where, "'" + key + "' must be true or false.");
            out.*is_switch->value = value.get<bool>();
        } else if (auto ok = read_other(key, value, where, out); !ok) {
            return ok.error();
        }
    }
    if (out.smooth_end_mm > out.smooth_start_mm)
        return bad_setting(where, "'smooth_end_mm' must not be above 'smooth_start_mm'.");
    return out;
}

}  // namespace veld
