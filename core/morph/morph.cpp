#include "core/morph/morph.h"

#include <cmath>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "core/io/file.h"
#include "core/io/glb_write.h"
#include "core/io/obj.h"

namespace veld {
namespace {

using Json = nlohmann::ordered_json;

Error bad(const std::string& path, const std::string& why) {
    return {ErrorCode::BadFile, "'" + path + "': " + why};
}

}  // namespace

Result<Morph> make_morph(const BaseKit& kit, const Points& shape, const std::string& name, double least_mm) {
    const Points& base = kit.mesh.positions;
    if (name.empty()) return Error{ErrorCode::BadInput, "A morph needs a name."};
    if (shape.size() != base.size()) {
        const bool fewer = shape.size() < base.size();
        return Error{ErrorCode::BadInput, "The shape has " + std::to_string(shape.size()) + " vertices, the base has " + std::to_string(base.size()) +
                                              (fewer ? ". Parts are missing, or it is another mesh." : ". It has extra parts, was split or subdivided, or is another mesh.")};
    }
    Morph out;
    out.name = name;
    out.topology = kit.topology_key;
    for (Index v = 0; v < base.size(); ++v) {
        const Vec3 d = shape[v] - base[v];
        if (!d.allFinite()) return Error{ErrorCode::BadInput, "Vertex " + std::to_string(v) + " of the shape is not a finite number."};
        if (d.norm() < least_mm) continue;
        out.index.push_back(v);
        out.delta.push_back(d);
    }
    return out;
}

Points mix_morphs(const Points& base, const std::vector<MorphAmount>& amounts) {
    Points out = base;
    for (const MorphAmount& a : amounts) {
        if (!a.morph || a.amount == 0) continue;
        for (std::size_t i = 0; i < a.morph->index.size(); ++i) out[a.morph->index[i]] += a.amount * a.morph->delta[i];
    }
    return out;
}

std::string morph_text(const Morph& m) {
    Json json;
    json["format"] = "veldstone-morph";
    json["version"] = 1;
    json["name"] = m.name;
    json["topology"] = m.topology;
    json["unit"] = "mm";
    json["range"] = {m.low, m.high};
    json["note"] = m.note;
    if (!m.figures.empty()) json["figures"] = Json::parse(m.figures, nullptr, false);
    json["index"] = m.index;
    Json& delta = json["delta"] = Json::array();
    for (const Vec3& d : m.delta) delta.push_back(Json::array({d.x(), d.y(), d.z()}));
    return json.dump() + "\n";
}

Result<Morph> parse_morph(std::string_view text, const std::string& path, const BaseKit& kit) {
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (json.is_discarded() || !json.is_object()) return bad(path, "is no complete JSON file. It may be cut short.");
    Morph out;
    try {
        if (json.at("format") != "veldstone-morph" || json.at("version") != 1) return bad(path, "is no morph file of version 1.");
        out.name = json.at("name");
        out.topology = json.at("topology");
        out.low = json.at("range").at(0);
        out.high = json.at("range").at(1);
        out.note = json.value("note", "");
        if (json.contains("figures")) out.figures = json["figures"].dump();
        out.index = json.at("index").get<std::vector<Index>>();
        for (const Json& d : json.at("delta")) out.delta.emplace_back(d.at(0).get<double>(), d.at(1).get<double>(), d.at(2).get<double>());
    } catch (const Json::exception& e) {
        return bad(path, std::string("is damaged: ") + e.what());
    }
    if (out.topology != kit.topology_key) return bad(path, "belongs to another base mesh (its faces differ from this kit's).");
    if (out.index.size() != out.delta.size()) return bad(path, "has " + std::to_string(out.index.size()) + " indices but " + std::to_string(out.delta.size()) + " differences.");
    for (std::size_t i = 0; i < out.index.size(); ++i) {
        if (out.index[i] >= kit.mesh.positions.size() || (i > 0 && out.index[i] <= out.index[i - 1])) return bad(path, "entry " + std::to_string(i) + ": the vertex is out of range or out of order.");
        if (!out.delta[i].allFinite()) return bad(path, "entry " + std::to_string(i) + " is not a finite number.");
    }
    return out;
}

Result<Morph> read_morph(const std::string& path, const BaseKit& kit) {
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return parse_morph(bytes->view(), path, kit);
}

Status export_morphed_obj(const BaseKit& kit, const std::vector<MorphAmount>& amounts, const std::string& path) {
    Mesh mesh = kit.mesh;
    mesh.positions = mix_morphs(kit.mesh.positions, amounts);
    mesh.material_libraries.clear();  // they lie beside the kit, not beside this file
    std::string comment = "mm, Y up, facing +Z, own left = +X; order of the base";
    for (const MorphAmount& a : amounts) comment += "\n" + a.morph->name + " x " + std::to_string(a.amount);
    return write_obj(path, mesh, comment);
}

Status export_glb(const BaseKit& kit, const std::vector<MorphAmount>& morphs, const std::string& path) {
    GlbModel model;
    model.mesh = &kit.mesh;
    model.joints = &kit.joints;
    model.weights = &kit.weights;
    model.metres_per_unit = 0.001;
    model.name = std::filesystem::path(path).stem().string();
    for (const MorphAmount& m : morphs) {
        GlbTarget target;
        target.name = m.morph->name;
        target.weight = m.amount;
        target.delta.assign(kit.mesh.positions.size(), Vec3::Zero());
        for (std::size_t i = 0; i < m.morph->index.size(); ++i) target.delta[m.morph->index[i]] = m.morph->delta[i];
        model.targets.push_back(std::move(target));
    }
    return write_file(path, glb_bytes(model));
}

}  // namespace veld
