#include "core/landmark/landmarks.h"

#include <algorithm>
#include <cmath>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/landmark/scheme_data.h"

namespace veld {
namespace {

LandmarkScheme parse_scheme() {
    LandmarkScheme scheme;
    const Json json = Json::parse(kSchemeJson);
    for (const Json& p : json["points"]) {
        scheme.points.push_back({p["name"], p["plain"], p["definition"], p.value("mirror", ""), p.value("region", ""),
                                 p.value("core", false)});
    }
    for (const Json& c : json["curves"]) {
        scheme.curves.push_back(
            {c["name"], c["plain"], c["definition"], c.value("mirror", ""), c.value("region", "")});
    }
    return scheme;
}

bool read_point(const Json& json, Vec3& out) {
    if (!json.is_array() || json.size() != 3) return false;
    for (std::size_t k = 0; k < 3; ++k) {
        if (!json[k].is_number()) return false;
        out[static_cast<int>(k)] = json[k].get<double>();
    }
    return out.allFinite();
}

Error bad_landmarks(const std::string& path, const std::string& why) {
    return {ErrorCode::BadFile, "'" + path + "': " + why};
}

Json point_json(const Vec3& p) { return Json::array({p.x(), p.y(), p.z()}); }

Status read_points(const Json& json, const std::string& path, LandmarkFile& out) {
    for (const auto& [name, value] : json.items()) {
        Vec3 p;
        if (!read_point(value, p)) {
            return bad_landmarks(path, "point '" + name + "' is not three finite numbers. Correct or remove it.");
        }
        out.set.points[name] = p;
        if (!landmark_scheme().point(name)) out.unknown.push_back(name);
    }
    return Done{};
}

Status read_curves(const Json& json, const std::string& path, LandmarkFile& out) {
    for (const auto& [name, value] : json.items()) {
        if (!value.is_array() || value.size() < 2) {
            return bad_landmarks(path, "curve '" + name + "' needs a list of at least two points.");
        }
        Points& curve = out.set.curves[name];
        for (std::size_t i = 0; i < value.size(); ++i) {
            Vec3 p;
            if (!read_point(value[i], p)) {
                return bad_landmarks(
                    path, "curve '" + name + "', point " + std::to_string(i) + " is not three finite numbers.");
            }
            curve.push_back(p);
        }
        if (!landmark_scheme().curve(name)) out.unknown.push_back(name);
    }
    return Done{};
}

Status read_joints(const Json& json, const std::string& path, LandmarkSet& set) {
    for (const auto& [name, value] : json.items()) {
        JointMark mark;
        if (!value.is_object() || !value.contains("at") || !read_point(value["at"], mark.at))
            return bad_landmarks(path,
                                 "joint '" + name + "' has no 'at' of three finite numbers. Correct or remove it.");
        mark.by_hand = value.contains("by_hand") && value["by_hand"].is_boolean() && value["by_hand"].get<bool>();
        set.joints[name] = mark;
    }
    return Done{};
}

// Lengths in mm whatever the file's unit.
Status read_trust(const Json& json, const std::string& path, LandmarkSet& set) {
    for (const auto& [name, value] : json.items()) {
        if (!set.points.contains(name) && !set.curves.contains(name)) continue;
        if (!value.is_object()) return bad_landmarks(path, "'trust' of '" + name + "' is not an object.");
        Trust& t = set.trust[name];
        const std::string origin =
            value.contains("origin") && value["origin"].is_string() ? value["origin"].get<std::string>() : "";
        bool known = false;
        for (const Origin o : {Origin::Hand, Origin::Read, Origin::Found, Origin::Mirrored, Origin::Copied}) {
            if (origin == origin_name(o)) t.origin = o, known = true;
        }
        if (!known)
            return bad_landmarks(
                path, "'trust' of '" + name + "' has no known origin (hand, read, found, mirrored, copied).");
        for (const auto& [key, length] :
             {std::pair{"expected_mm", &t.expected_mm}, {"spread_mm", &t.spread_mm}, {"off_mm", &t.off_mm}}) {
            if (!value.contains(key)) continue;
            const bool number =
                value[key].is_number() && std::isfinite(value[key].get<double>()) && value[key].get<double>() >= 0;
            if (!number) return bad_landmarks(path, "'trust' of '" + name + "': " + key + " is no length.");
            *length = value[key].get<double>();
        }
        for (const auto& [key, flag] :
             {std::pair{"accepted", &t.accepted}, {"locked", &t.locked}, {"hidden", &t.hidden}}) {
            if (value.contains(key)) *flag = value[key].is_boolean() && value[key].get<bool>();
        }
    }
    return Done{};
}

Json trust_json(const Trust& t) {
    Json out = {{"origin", origin_name(t.origin)}};
    for (const auto& [key, length] :
         {std::pair{"expected_mm", t.expected_mm}, {"spread_mm", t.spread_mm}, {"off_mm", t.off_mm}}) {
        if (length > 0) out[key] = length;
    }
    for (const auto& [key, flag] : {std::pair{"accepted", t.accepted}, {"locked", t.locked}, {"hidden", t.hidden}}) {
        if (flag) out[key] = true;
    }
    return out;
}

}  // namespace

const char* origin_name(Origin origin) {
    switch (origin) {
        case Origin::Hand:
            return "hand";
        case Origin::Read:
            return "read";
        case Origin::Found:
            return "found";
        case Origin::Mirrored:
            return "mirrored";
        case Origin::Copied:
            return "copied";
    }
    return "hand";
}

bool unsure(const Trust& t) { return t.origin == Origin::Found && !t.accepted && t.expected_mm > kUnsureMm; }

bool kept_by_hand(const Trust& t) { return t.origin != Origin::Found || t.accepted || t.locked; }

double trust_weight(const Trust& t) {
    if (t.origin != Origin::Found || t.accepted) return 1;
    const double r = t.expected_mm / 2;
    return 1 / (1 + r * r);
}

const char* point_set_name(PointSet set) {
    switch (set) {
        case PointSet::Minimal:
            return "minimal";
        case PointSet::Face:
            return "face";
        case PointSet::Head:
            return "head";
        case PointSet::Body:
            return "body";
    }
    return "head";
}

const std::vector<std::string>& minimal_points() {
    // seen at once on any head, spread over all of it
    static const std::vector<std::string> names = {
        "exocanthion_r", "exocanthion_l", "endocanthion_r", "endocanthion_l", "pronasale",
        "cheilion_r",    "cheilion_l",    "pogonion",       "tragion_r",      "tragion_l"};
    return names;
}

bool in_point_set(const std::string& name, PointSet set) {
    const auto& ten = minimal_points();
    if (std::find(ten.begin(), ten.end(), name) != ten.end()) return true;
    if (set == PointSet::Minimal) return false;
    const SchemePoint* p = landmark_scheme().point(name);
    const SchemeCurve* c = landmark_scheme().curve(name);
    if ((!p && !c) || set == PointSet::Body) return true;
    const std::string& region = p ? p->region : c->region;
    for (const char* face : {"forehead", "nose", "mouth", "chin", "eye", "cheek", "jaw"}) {
        if (region == face) return true;
    }
    return set == PointSet::Head && (region == "skull" || region == "ear" || region == "neck");
}

bool can_be_marked(const std::string& name, const LandmarkSet& beside) {
    if (name == kInnerLips[0] || name == kInnerLips[1])
        return !beside.points.contains("stomion") && !beside.curves.contains("mouth_line");
    if (name == "stomion" || name == "mouth_line")
        return !beside.curves.contains(kInnerLips[0]) && !beside.curves.contains(kInnerLips[1]);
    return true;
}

std::string other_side(const std::string& name) {
    if (const SchemePoint* p = landmark_scheme().point(name)) return p->mirror;
    if (const SchemeCurve* c = landmark_scheme().curve(name)) return c->mirror;
    if (name.ends_with("_l")) return name.substr(0, name.size() - 2) + "_r";
    if (name.ends_with("_r")) return name.substr(0, name.size() - 2) + "_l";
    return {};
}

const SchemePoint* LandmarkScheme::point(const std::string& name) const {
    for (const SchemePoint& p : points) {
        if (p.name == name) return &p;
    }
    return nullptr;
}

const SchemeCurve* LandmarkScheme::curve(const std::string& name) const {
    for (const SchemeCurve& c : curves) {
        if (c.name == name) return &c;
    }
    return nullptr;
}

std::string LandmarkScheme::plain(const std::string& name) const {
    if (const SchemePoint* p = point(name)) return p->plain;
    if (const SchemeCurve* c = curve(name)) return c->plain;
    return name;
}

const LandmarkScheme& landmark_scheme() {
    static const LandmarkScheme scheme = parse_scheme();
    return scheme;
}

Result<LandmarkFile> parse_landmarks(std::string_view text, const std::string& path) {
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (json.is_discarded() || !json.is_object()) {
        return bad_landmarks(path, "is no complete JSON file. It may be cut short; save it again.");
    }
    const auto format = json.find("format");
    if (format == json.end() || !format->is_string() || *format != "veldstone-landmarks") {
        return bad_landmarks(path, "is not a landmark file ('format' is not 'veldstone-landmarks').");
    }
    const auto version = json.find("version");
    if (version == json.end() || !version->is_number_integer() || *version != 1) {
        return bad_landmarks(path, "has a version that this program does not know; it reads version 1.");
    }
    LandmarkFile out;
    if (const auto unit = json.find("unit"); unit != json.end()) {
        if (unit->is_string()) out.set.unit = unit_from_name(unit->get<std::string>());
        if (!out.set.unit) return bad_landmarks(path, "has an unknown unit; use mm, cm, m or in.");
    }
    if (const auto points = json.find("points"); points != json.end()) {
        if (!points->is_object()) return bad_landmarks(path, "'points' is not an object of named points.");
        if (auto ok = read_points(*points, path, out); !ok) return ok.error();
    }
    if (const auto curves = json.find("curves"); curves != json.end()) {
        if (!curves->is_object()) return bad_landmarks(path, "'curves' is not an object of named curves.");
        if (auto ok = read_curves(*curves, path, out); !ok) return ok.error();
    }
    if (const auto trust = json.find("trust"); trust != json.end()) {
        if (!trust->is_object()) return bad_landmarks(path, "'trust' is not an object.");
        if (auto ok = read_trust(*trust, path, out.set); !ok) return ok.error();
    }
    if (const auto joints = json.find("joints"); joints != json.end()) {
        if (!joints->is_object()) return bad_landmarks(path, "'joints' is not an object of named joints.");
        if (auto ok = read_joints(*joints, path, out.set); !ok) return ok.error();
    }
    for (const std::string& name : out.unknown) {
        out.notes.push_back("'" + name + "' is not in the landmark scheme; it is kept but not used.");
    }
    return out;
}

Result<LandmarkFile> read_landmarks(const std::string& path) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return parse_landmarks(bytes->view(), path);
}

std::string landmarks_text(const LandmarkSet& set) {
    Json json;
    json["format"] = "veldstone-landmarks";
    json["version"] = 1;
    if (set.unit) json["unit"] = unit_name(*set.unit);
    json["points"] = Json::object();
    for (const auto& [name, p] : set.points) json["points"][name] = point_json(p);
    json["curves"] = Json::object();
    for (const auto& [name, curve] : set.curves) {
        Json& list = json["curves"][name] = Json::array();
        for (const Vec3& p : curve) list.push_back(point_json(p));
    }
    for (const auto& [name, t] : set.trust) json["trust"][name] = trust_json(t);
    for (const auto& [name, joint] : set.joints)
        json["joints"][name] = {{"at", point_json(joint.at)}, {"by_hand", joint.by_hand}};
    return json.dump(1) + "\n";
}

LandmarkSet swap_sides(const LandmarkSet& set) {
    const auto other = [](const std::string& name) {
        if (name.ends_with("_l")) return name.substr(0, name.size() - 2) + "_r";
        if (name.ends_with("_r")) return name.substr(0, name.size() - 2) + "_l";
        return name;
    };
    LandmarkSet out;
    out.unit = set.unit;
    for (const auto& [name, p] : set.points) out.points[other(name)] = p;
    for (const auto& [name, c] : set.curves) out.curves[other(name)] = c;
    for (const auto& [name, t] : set.trust) out.trust[other(name)] = t;
    for (const auto& [name, joint] : set.joints) out.joints[other(name)] = joint;
    return out;
}

}  // namespace veld
