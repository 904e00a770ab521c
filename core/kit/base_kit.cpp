#include "core/kit/base_kit.h"

#include <cstdio>
#include <filesystem>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/kit/own_files.h"

namespace veld {

namespace {

constexpr std::pair<PartRule, const char*> kRuleNames[] = {{PartRule::Eye, "eye"},
                                                           {PartRule::UpperJaw, "upper_jaw"},
                                                           {PartRule::LowerJaw, "lower_jaw"},
                                                           {PartRule::Edge, "edge"},
                                                           {PartRule::Skin, "skin"}};

}  // namespace

const char* part_rule_name(PartRule rule) { return kRuleNames[static_cast<std::size_t>(rule)].second; }

std::optional<PartRule> part_rule_from_name(const std::string& name) {
    for (const auto& [rule, text] : kRuleNames) {
        if (name == text) return rule;
    }
    return {};
}

PartRule KitPart::rule() const {
    if (told) return *told;
    if (name.starts_with("eye_")) return PartRule::Eye;
    if (name == "teeth_upper") return PartRule::UpperJaw;
    if (name == "teeth_lower" || name == "tongue") return PartRule::LowerJaw;
    return name.starts_with("lash") || name == "lid_edge" ? PartRule::Edge : PartRule::Skin;
}

const KitPart* BaseKit::part(const std::string& name) const {
    for (const KitPart& p : parts) {
        if (p.name == name) return &p;
    }
    return nullptr;
}

const VertexIndices& BaseKit::region(const std::string& name) const {
    static const VertexIndices none;
    const auto at = regions.find(name);
    return at == regions.end() ? none : at->second;
}

LandmarkSet BaseKit::landmark_positions() const {
    LandmarkSet out;
    out.unit = Unit::Millimetre;
    for (const auto& [name, p] : landmarks) out.points[name] = p.at(mesh.positions);
    for (const auto& [name, curve] : curves) {
        for (const SurfacePoint& p : curve) out.curves[name].push_back(p.at(mesh.positions));
    }
    return out;
}

std::string topology_key(const Mesh& mesh) {
    std::uint64_t hash = 1469598103934665603ull;  // FNV-1a over the face table
    const auto mix = [&](std::uint64_t x) { hash = (hash ^ x) * 1099511628211ull; };
    mix(mesh.positions.size());
    for (Index s : mesh.face_start) mix(s);
    for (Index v : mesh.corner_vertex) mix(v);
    char text[20];
    std::snprintf(text, sizeof text, "%016llx", static_cast<unsigned long long>(hash));
    return text;
}

Status write_own_landmarks(const BaseKit& kit, const std::map<std::string, SurfacePoint>& points,
                           const std::map<std::string, std::vector<SurfacePoint>>& curves) {
    const auto place = [&](const SurfacePoint& p) {
        Json corners = Json::array();
        for (const Index v : p.vertices) {
            Index corner = 0;
            for (Index c = 0; c < kit.mesh.face_size(p.face); ++c) {
                if (kit.mesh.corner_vertex[kit.mesh.face_start[p.face] + c] == v) corner = c;
            }
            corners.push_back(corner);
        }
        return Json{{"face", p.face}, {"corners", corners}, {"weights", p.weights}};
    };
    Json json = {
        {"format", "veldstone-kit-landmarks"}, {"version", 1}, {"points", Json::object()}, {"curves", Json::object()}};
    for (const auto& [name, p] : points) {
        if (!landmark_scheme().point(name)) json["points"][name] = place(p);
    }
    for (const auto& [name, line] : curves) {
        if (landmark_scheme().curve(name)) continue;
        for (const SurfacePoint& p : line) json["curves"][name].push_back(place(p));
    }
    return write_file(kit.folder + "/" + kOwnFile, json.dump(1) + "\n");
}

Status write_share_weights(const BaseKit& kit, const SoftWeights& head) {
    const std::string path = kit.folder + "/" + kShareFile;
    std::error_code ignored;
    if (head.empty()) return std::filesystem::remove(path, ignored), Status(Done{});
    const Json json = {{"format", "veldstone-share-weights"},
                       {"version", 1},
                       {"topology", kit.topology_key},
                       {"head", {{"vertex", head.vertex}, {"weight", head.weight}}}};
    return write_file(path, json.dump() + "\n");
}

}  // namespace veld
