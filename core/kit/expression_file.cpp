#include "core/kit/expression_file.h"

#include "core/base/json.h"
#include "core/kit/morph_parts.h"

namespace veld {

std::string expression_text(const BaseKit& kit, const std::string& name) {
    const Points& shape = kit.expressions.at(name);
    Json json = {{"format", "veldstone-morph"},
                 {"version", 2},
                 {"name", name},
                 {"topology", kit.topology_key},
                 {"unit", "mm"},
                 {"range", {0.0, 1.0}},
                 {"usual", 0.0},
                 {"kind", "expression"},
                 {"group", "expressions"},
                 {"tag", 0},
                 {"note", ""},
                 {"origin", "An expression of the kit"},
                 {"root", {0.0, 0.0, 0.0}}};
    Json index = Json::array(), delta = Json::array();
    for (Index v = 0; v < shape.size(); ++v) {
        const Vec3 way = ((shape[v] - kit.mesh.positions[v]) * 1e6).array().round() / 1e6;
        if (way == Vec3::Zero()) continue;
        index.push_back(v), delta.push_back({way.x(), way.y(), way.z()});
    }
    json["index"] = std::move(index), json["delta"] = std::move(delta);
    return json.dump(-1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<Points> expression_from(std::string_view text, const std::string& path, const BaseKit& kit) {
    const auto parts = morph_parts(text, path);
    if (!parts) return parts.error();
    const Json card = Json::parse(parts->card, nullptr, false);
    const auto is = [&](const char* name, const std::string& value) {
        return card.is_object() && card.value(name, Json()) == value;
    };
    if (!is("format", "veldstone-morph")) return Error{ErrorCode::BadFile, "'" + path + "': is no morph file."};
    if (!is("topology", kit.topology_key))
        return Error{ErrorCode::BadFile,
                     "'" + path + "': belongs to another base mesh (its faces differ from this kit's)."};
    if (auto ok = check_range(*parts, path, kit.mesh.positions.size()); !ok) return ok.error();
    Points out = kit.mesh.positions;
    for (std::size_t i = 0; i < parts->index.size(); ++i) out[parts->index[i]] += parts->delta[i];
    return out;
}

}  // namespace veld
