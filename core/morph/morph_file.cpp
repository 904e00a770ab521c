#include "core/morph/morph_file.h"

#include <cmath>
#include <cstring>

#include "core/base/file.h"
#include "core/base/json.h"

namespace veld {
namespace {

constexpr std::string_view kBinary = "VELDMRF1";

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
    if (!m.figures.empty()) json["figures"] = Json::parse(m.figures, nullptr, false);
    return json;
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
    if (!json.contains("joints")) return Done{};
    for (const auto& [name, move] : json["joints"].items()) {
        Vec3& to = out.joints[name];
        for (int k = 0; k < 3; ++k) to[k] = move.at(static_cast<std::size_t>(k));
        if (!to.allFinite()) return bad(path, "moves the joint '" + name + "' by no number.");
    }
    return Done{};
}

Status check(const Morph& m, const std::string& path, const BaseKit& kit) {
    if (m.topology != kit.topology_key)
        return bad(path, "belongs to another base mesh (its faces differ from this kit's).");
    if (m.name.empty()) return bad(path, "has no name.");
    if (m.index.size() != m.delta.size())
        return bad(path, "has " + std::to_string(m.index.size()) + " indices but " + std::to_string(m.delta.size()) +
                             " differences.");
    for (std::size_t i = 0; i < m.index.size(); ++i) {
        if (m.index[i] >= kit.mesh.positions.size() || (i > 0 && m.index[i] <= m.index[i - 1]))
            return bad(path, "entry " + std::to_string(i) + ": the vertex is out of range or out of order.");
        if (!m.delta[i].allFinite()) return bad(path, "entry " + std::to_string(i) + " is not a finite number.");
    }
    return Done{};
}

Result<Morph> parse_binary(std::string_view bytes, const std::string& path, const BaseKit& kit) {
    std::size_t at = kBinary.size();
    const auto take = [&](void* to, std::size_t size) {
        if (bytes.size() - at < size) return false;
        if (size) std::memcpy(to, bytes.data() + at, size);
        at += size;
        return true;
    };
    std::uint64_t head = 0, count = 0;
    if (!take(&head, 8) || bytes.size() - at < head) return bad(path, "is cut short.");
    const Json json = Json::parse(bytes.begin() + static_cast<std::ptrdiff_t>(at),
                                  bytes.begin() + static_cast<std::ptrdiff_t>(at + head), nullptr, false);
    at += head;
    if (!json.is_object()) return bad(path, "is damaged in its head.");
    Morph out;
    try {
        if (auto ok = read_head(json, path, out); !ok) return ok.error();
    } catch (const Json::exception& e) {
        return bad(path, std::string("is damaged: ") + e.what());
    }
    if (!take(&count, 8) || (bytes.size() - at) / (sizeof(Index) + sizeof(Vec3)) != count)
        return bad(path, "is cut short.");
    out.index.resize(count), out.delta.resize(count);
    if (!take(out.index.data(), count * sizeof(Index)) ||
        !take(static_cast<void*>(out.delta.data()), count * sizeof(Vec3)))
        return bad(path, "is cut short.");
    if (auto ok = check(out, path, kit); !ok) return ok.error();
    return out;
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
    std::string out(kBinary);
    out.reserve(out.size() + 16 + head.size() + count * (sizeof(Index) + sizeof(Vec3)));
    out.append(reinterpret_cast<const char*>(&size), 8).append(head).append(reinterpret_cast<const char*>(&count), 8);
    out.append(reinterpret_cast<const char*>(m.index.data()), count * sizeof(Index));
    out.append(reinterpret_cast<const char*>(m.delta.data()), count * sizeof(Vec3));
    return out;
}

Result<Morph> parse_morph(std::string_view text, const std::string& path, const BaseKit& kit) {
    if (text.starts_with(kBinary)) return parse_binary(text, path, kit);
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (json.is_discarded() || !json.is_object()) return bad(path, "is no complete JSON file. It may be cut short.");
    Morph out;
    try {
        if (auto ok = read_head(json, path, out); !ok) return ok.error();
        out.index = json.at("index").get<std::vector<Index>>();
        for (const Json& d : json.at("delta"))
            out.delta.emplace_back(d.at(0).get<double>(), d.at(1).get<double>(), d.at(2).get<double>());
    } catch (const Json::exception& e) {
        return bad(path, std::string("is damaged: ") + e.what());
    }
    if (auto ok = check(out, path, kit); !ok) return ok.error();
    return out;
}

Result<Morph> read_morph(const std::string& path, const BaseKit& kit) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return parse_morph(bytes->view(), path, kit);
}

}  // namespace veld
