#include "core/fit/settings.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace veld {
namespace {

using Json = nlohmann::ordered_json;

struct NumberField {
    const char* name;
    double FitSettings::*value;
    double low, high;
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
};

Error bad(const std::string& where, const std::string& why) {
    return {ErrorCode::BadInput, where + ": " + why};
}

bool in_range(const Json& j, double low, double high, double& out) {
    if (!j.is_number()) return false;
    out = j.get<double>();
    return std::isfinite(out) && out >= low && out <= high;
}

Status read_region(const std::string& name, const Json& j, const std::string& where, RegionSetting& out) {
    if (!j.is_object()) return bad(where, "region '" + name + "' is not an object with match and stiffness.");
    for (const auto& [key, value] : j.items()) {
        double* target = key == "match" ? &out.match : key == "stiffness" ? &out.stiffness : nullptr;
        if (!target) return bad(where, "region '" + name + "' has the unknown setting '" + key + "'.");
        const double high = target == &out.match ? 1 : 1e6;
        if (!in_range(value, 0, high, *target)) return bad(where, "region '" + name + "': '" + key + "' must be between 0 and " + std::to_string(high) + ".");
    }
    return Done{};
}

}  // namespace

const char* fit_part_name(FitPart part) {
    return part == FitPart::Head ? "head" : part == FitPart::Body ? "body" : "all";
}

std::string fit_settings_text(const FitSettings& s) {
    Json json;
    json["part"] = fit_part_name(s.part);
    json["keep_true_size"] = s.keep_true_size;
    json["take_pose_out"] = s.take_pose_out;
    json["use_curves"] = s.use_curves;
    for (const NumberField& f : kNumbers) json[f.name] = s.*f.value;
    json["levels"] = s.levels;
    json["iterations"] = s.iterations;
    json["regions"] = Json::object();
    for (const auto& [name, r] : s.regions) json["regions"][name] = {{"match", r.match}, {"stiffness", r.stiffness}};
    return json.dump();
}

Result<FitSettings> parse_fit_settings(std::string_view text, const std::string& where) {
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (json.is_discarded() || !json.is_object()) return bad(where, "the settings are no JSON object.");
    FitSettings out;
    for (const auto& [key, value] : json.items()) {
        bool known = false;
        for (const NumberField& f : kNumbers) {
            if (key != f.name) continue;
            known = true;
            if (!in_range(value, f.low, f.high, out.*f.value)) {
                return bad(where, "'" + key + "' must be a number between " + std::to_string(f.low) + " and " + std::to_string(f.high) + ".");
            }
        }
        if (known) continue;
        double number = 0;
        if (key == "part") {
            if (value == "head") out.part = FitPart::Head;
            else if (value == "body") out.part = FitPart::Body;
            else if (value == "all") out.part = FitPart::All;
            else return bad(where, "'part' must be head, body or all.");
        } else if (key == "keep_true_size" || key == "use_curves" || key == "take_pose_out") {
            if (!value.is_boolean()) return bad(where, "'" + key + "' must be true or false.");
            (key == "use_curves" ? out.use_curves : key == "take_pose_out" ? out.take_pose_out : out.keep_true_size) = value.get<bool>();
        } else if (key == "levels" || key == "iterations") {
            if (!in_range(value, 1, 100, number)) return bad(where, "'" + key + "' must be between 1 and 100.");
            (key == "levels" ? out.levels : out.iterations) = static_cast<int>(number);
        } else if (key == "regions" && value.is_object()) {
            for (const auto& [name, region] : value.items()) {
                if (auto ok = read_region(name, region, where, out.regions[name]); !ok) return ok.error();
            }
        } else {
            return bad(where, "there is no setting '" + key + "'.");
        }
    }
    if (out.smooth_end_mm > out.smooth_start_mm) return bad(where, "'smooth_end_mm' must not be above 'smooth_start_mm'.");
    return out;
}

}  // namespace veld
