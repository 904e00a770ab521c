#include "core/morph/morph_file.h"

#include <cmath>
#include <cstring>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/kit/morph_parts.h"

namespace veld {
namespace {

Error bad(const std::string& path, const std::string& why) { return {ErrorCode::BadFile, "'" + path + "': " + why}; }

// Everything but the differences themselves.
Json head_of(const Morph& m) {
    Json json;
    json["format"] = "veldstone-morph";
    json["version"] = 2;
    json["name"] = m.name;
    json["topology"] = m.topology;
    json["unit"] = "mm";
    json["range"] = {m.low, m.high};
    json["usual"] = m.usual;
    json["kind"] = morph_kind_name(m.kind);
    json["group"] = m.group;
    json["tag"] = m.tag;
    json["note"] = m.note;
    json["origin"] = m.origin;
    json["root"] = {m.root.x(), m.root.y(), m.root.z()};
    for (const auto& [name, move] : m.joints) json["joints"][name] = {move.x(), move.y(), move.z()};
    for (const MorphDriver& d : m.drivers) {
        if (d.joint.empty())
            json["drivers"].push_back({{"morph", d.morph}, {"whole", d.whole}});
        else
            json["drivers"].push_back({{"joint", d.joint}, {"turn", {d.turn.x(), d.turn.y(), d.turn.z()}}});
    }
    if (!m.figures.empty()) json["figures"] = Json::parse(m.figures, nullptr, false);
    return json;
}

// Throws Json::exception.
Status read_drivers(const Json& json, const std::string& path, Morph& out) {
    for (const Json& d : json) {
        MorphDriver driver;
        if (d.contains("joint")) {
            driver.joint = d["joint"];
            for (int k = 0; k < 3; ++k) driver.turn[k] = d.at("turn").at(static_cast<std::size_t>(k));
        } else {
            driver.morph = d.at("morph"), driver.whole = d.at("whole");
        }
        const bool joint = !driver.joint.empty();
        if ((!joint && driver.morph.empty()) || (joint && (!driver.turn.allFinite() || driver.turn.isZero(0))) ||
            !std::isfinite(driver.whole) || driver.whole == 0)
            return bad(path, "is brought in by something that is no driver: " + d.dump() + ".");
        out.drivers.push_back(std::move(driver));
    }
    return Done{};
}

// Throws Json::exception.
Status read_head(const Json& json, const std::string& path, Morph& out) {
    const int version = json.at("version").get<int>();
    if (json.at("format") != "veldstone-morph" || version < 1 || version > 2)
        return bad(path, "is no morph file of version 1 or 2.");
    out.name = json.at("name");
    out.topology = json.at("topology");
    out.low = json.at("range").at(0);
    out.high = json.at("range").at(1);
    out.note = json.value("note", "");
    if (json.contains("figures")) out.figures = json["figures"].dump();
    if (version < 2) return Done{};
    out.usual = json.at("usual");
    const auto kind = morph_kind_from_name(json.at("kind"));
    if (!kind) return bad(path, "has a kind that is not known: " + json.at("kind").dump() + ".");
    out.kind = *kind;
    out.group = json.at("group");
    out.tag = std::clamp(json.at("tag").get<int>(), 0, kMorphTags);
    out.origin = json.at("origin");
    for (int k = 0; k < 3; ++k) out.root[k] = json.at("root").at(static_cast<std::size_t>(k));
    if (!out.root.allFinite()) return bad(path, "has a root height that is no number.");
    if (json.contains("drivers"))
        if (auto ok = read_drivers(json["drivers"], path, out); !ok) return ok;
    if (!json.contains("joints")) return Done{};
    for (const auto& [name, move] : json["joints"].items()) {
        Vec3& to = out.joints[name];
        for (int k = 0; k < 3; ++k) to[k] = move.at(static_cast<std::size_t>(k));
        if (!to.allFinite()) return bad(path, "moves the joint '" + name + "' by no number.");
    }
    return Done{};
}

}  // namespace

std::string morph_text(const Morph& m) {
    Json json = head_of(m);
    json["index"] = m.index;
    Json& delta = json["delta"] = Json::array();
    for (const Vec3& d : m.delta) delta.push_back(Json::array({d.x(), d.y(), d.z()}));
    return json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
}

std::string morph_bytes(const Morph& m) {
    const std::string head = head_of(m).dump(-1, ' ', false, Json::error_handler_t::replace);
    const std::uint64_t size = head.size(), count = m.index.size();
    std::string out(kBinaryMorph);
    out.reserve(out.size() + 16 + head.size() + count * (sizeof(Index) + sizeof(Vec3)));
    out.append(reinterpret_cast<const char*>(&size), 8).append(head).append(reinterpret_cast<const char*>(&count), 8);
    out.append(reinterpret_cast<const char*>(m.index.data()), count * sizeof(Index));
    out.append(reinterpret_cast<const char*>(m.delta.data()), count * sizeof(Vec3));
    return out;
}

Result<Morph> parse_morph(std::string_view text, const std::string& path, const BaseKit& kit) {
    auto parts = morph_parts(text, path);
    if (!parts) return parts.error();
    const Json card = Json::parse(parts->card, nullptr, false);
    if (!card.is_object()) return bad(path, "is damaged in its head.");
    Morph out;
    try {
        if (auto ok = read_head(card, path, out); !ok) return ok.error();
    } catch (const Json::exception& e) {
        return bad(path, std::string("is damaged: ") + e.what());
    }
    if (out.topology != kit.topology_key)
        return bad(path, "belongs to another base mesh (its faces differ from this kit's).");
    if (out.name.empty()) return bad(path, "has no name.");
    if (auto ok = check_range(*parts, path, kit.mesh.positions.size()); !ok) return ok.error();
    out.index = std::move(parts->index), out.delta = std::move(parts->delta);
    return out;
}

Result<Morph> read_morph(const std::string& path, const BaseKit& kit) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return parse_morph(bytes->view(), path, kit);
}

}  // namespace veld
