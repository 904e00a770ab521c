#include "core/project/records/source.h"

#include "core/io/mesh_blob.h"
#include "core/kit/base_kit.h"
#include "core/landmark/landmarks.h"
#include "core/project/records/packing.h"
#include "core/tidy/orient.h"
#include "core/tidy/recipe.h"

namespace veld {
namespace {

// How a source stands and what was done to it.
Status read_tidied(const Json& j, const BaseKit& kit, const BlobReader& blobs, Source& s) {
    if (!j.contains("upright")) {  // written before sources could be tidied
        const FrameGuess guess = guess_frame(*s.mesh, s.name, {});
        s.shown_unit = s.unit.value_or(guess.unit), s.up = guess.up;
        s.unit_reason = guess.unit_reason, s.up_reason = guess.up_reason;
        s.upright = rough_upright(*s.mesh, s.shown_unit, s.up, bounding_box(kit.mesh.positions).high.y());
        return Done{};
    }
    s.shown_unit = unit_from_name(j.at("shown_unit")).value_or(Unit::Millimetre);
    s.up = up_axis_from_name(j.at("up")).value_or(UpAxis::PlusY);
    s.unit_reason = j.at("unit_reason"), s.up_reason = j.at("up_reason");
    s.upright = similarity_from(j.at("upright"));
    if (!(s.upright.scale > 0)) return blobs.damaged("the placement of '" + s.name + "' has no size.");
    for (const auto& [key, into] : {std::pair{"ignored", &s.ignored}, {"not_skin", &s.not_skin}}) {
        if (!j.contains(key)) continue;
        auto mask = std::make_shared<VertexMask>();
        if (!blobs.array(j[key], *mask) || mask->size() != s.mesh->positions.size())
            return blobs.damaged("the ignored areas of '" + s.name + "' do not match its mesh.");
        *into = mask;
    }
    auto recipe = parse_recipe(j.at("recipe").dump(), blobs.path());
    if (!recipe) return recipe.error();
    s.recipe = std::move(*recipe);
    s.recipe_said = j.at("recipe_said").get<std::vector<std::string>>();
    s.recipe_said.resize(s.recipe.size());
    s.stamp = j.at("stamp");
    return Done{};
}

}  // namespace

Json pack_source(const Source& s, BlobWriter& blobs) {
    Json out = {{"id", id_text(s.id.value)},
                {"name", s.name},
                {"path", s.path},
                {"mesh", blobs.keep(mesh_to_blob(*s.mesh))},
                {"landmarks", Json::parse(landmarks_text(s.landmarks))},
                {"notes", s.notes}};
    if (s.unit) out["unit"] = unit_name(*s.unit);
    out["shown_unit"] = unit_name(s.shown_unit), out["up"] = up_axis_name(s.up);
    out["unit_reason"] = s.unit_reason, out["up_reason"] = s.up_reason;
    out["upright"] = similarity_json(s.upright);
    if (s.ignored) out["ignored"] = blobs.keep_array(*s.ignored);
    if (s.not_skin) out["not_skin"] = blobs.keep_array(*s.not_skin);
    out["recipe"] = Json::parse(recipe_text(s.recipe));
    out["recipe_said"] = s.recipe_said, out["stamp"] = s.stamp;
    return out;
}

Result<Source> unpack_source(const Json& j, const BaseKit& kit, const BlobReader& blobs) {
    Source s;
    read_id(j, "id", s.id);
    s.name = j.at("name"), s.path = j.at("path");
    s.notes = j.at("notes").get<std::vector<std::string>>();
    if (j.contains("unit")) s.unit = unit_from_name(j["unit"]);
    std::string bytes;
    if (!blobs.bytes(j.at("mesh"), bytes)) return blobs.damaged("the mesh of '" + s.name + "' is missing.");
    auto mesh = mesh_from_blob(bytes);
    if (!mesh) return blobs.damaged(mesh.error().message);
    s.mesh = std::make_shared<Mesh>(std::move(*mesh));
    if (auto ok = read_tidied(j, kit, blobs, s); !ok) return ok.error();
    auto marks = parse_landmarks(j.at("landmarks").dump(), blobs.path());
    if (!marks) return marks.error();
    s.landmarks = std::move(marks->set);
    return s;
}

}  // namespace veld
