#pragma once
// What is true of a scan of foreign-standin: the JSON beside it, for the benchmarks.
#include <filesystem>
#include <optional>
#include <set>
#include <string>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/landmark/landmarks.h"

namespace veld {

inline const char* group_of(const std::string& name) {
    const SchemePoint* p = landmark_scheme().point(name);
    const std::string region = p ? p->region : "";
    if (name.starts_with("brow") || name.starts_with("superciliare") || name == "glabella") return "brows";
    if (region == "eye" || region == "nose" || region == "mouth" || region == "neck") return p->region.c_str();
    if (region == "ear") return "ears";
    if (region == "chin" || region == "jaw") return "jaw";
    return "skull";
}

struct Truth {
    Json json;
    double mm = 1;  // per unit
    std::set<std::string> covered;
    Vec3 point(const std::string& name) const {
        const Json& p = json.at("points").at(name);
        return Vec3(p.at(0).get<double>(), p.at(1).get<double>(), p.at(2).get<double>());
    }
};

inline std::optional<Truth> read_truth(const std::filesystem::path& path) {
    const auto bytes = read_file(path.string());
    if (!bytes) return {};
    Truth out;
    out.json = Json::parse(bytes->data.get(), bytes->data.get() + bytes->size, nullptr, false);
    if (!out.json.is_object()) return {};
    out.mm = out.json.at("mm_per_unit");
    if (out.json.contains("covered"))
        for (const Json& name : out.json.at("covered")) out.covered.insert(name.get<std::string>());
    return out;
}

}  // namespace veld
