#include "core/project/state_json.h"

#include <filesystem>

#include "core/io/mesh_blob.h"
#include "core/project/bank_store.h"
#include "core/project/blob_array.h"
#include "core/project/database.h"
#include "core/project/photo_store.h"
#include "core/tidy/recipe.h"

namespace veld {
namespace {

namespace fs = std::filesystem;

Json place_json(const SurfacePoint& p) { return {{"face", p.face}, {"vertices", p.vertices}, {"weights", p.weights}}; }
Json similarity_json(const Similarity& s) {
    Json r = Json::array();
    for (int i = 0; i < 9; ++i) r.push_back(s.rotation(i / 3, i % 3));
    return {{"scale", s.scale},
            {"rotation", r},
            {"translation", {s.translation.x(), s.translation.y(), s.translation.z()}}};
}
class Packer {
 public:
    std::map<std::string, std::string> blobs;

    Json pack(const ProjectState& s, const std::string& folder) {
        Json j;
        j["version"] = 1;
        std::error_code ignored;
        const fs::path kit = fs::absolute(s.kit->folder, ignored).lexically_normal();
        j["kit"] = kit.string();
        j["kit_relative"] = fs::relative(kit, fs::absolute(folder, ignored), ignored).string();
        j["topology"] = s.kit->topology_key;
        j["subject"] = s.subject;
        j["settings"] = Json::parse(fit_settings_text(s.settings));
        for (const auto& [name, p] : s.base_points) j["base_points"][name] = place_json(p);
        j["base_curves"] = Json::object();
        for (const auto& [name, line] : s.base_curves) {
            for (const SurfacePoint& p : line) j["base_curves"][name].push_back(place_json(p));
        }
        j["asked"] = point_set_name(s.asked);
        j["subjects"] = Json::array();
        for (const Subject& subject : s.subjects) j["subjects"].push_back(pack_subject(subject));
        j["inbox"] = s.inbox;
        pack_bank(s, j, [this](std::string bytes) { return keep(std::move(bytes)); });
        return j;
    }

 private:
    std::string keep(std::string bytes) {
        std::string id = blob_id(bytes);
        blobs.try_emplace(id, std::move(bytes));
        return id;
    }
    Json pack_subject(const Subject& subject) {
        Json j = {{"id", id_text(subject.id.value)},
                  {"name", subject.name},
                  {"sources", Json::array()},
                  {"fits", Json::array()},
                  {"photo_sets", Json::array()}};
        for (const PhotoSet& set : subject.photo_sets) {
            Json photos = Json::array();
            for (const Image& image : *set.photos)
                photos.push_back({{"name", image.name},
                                  {"mime", image.mime},
                                  {"bytes", keep({image.bytes.begin(), image.bytes.end()})}});
            Json marks = Json::array();
            for (const PhotoMarks& m : set.marks)
                marks.push_back(m.width > 0 ? Json::parse(photo_marks_text(m)) : Json());
            j["photo_sets"].push_back(
                {{"id", id_text(set.id.value)}, {"name", set.name}, {"photos", photos}, {"marks", marks}});
            if (set.settings)
                j["photo_sets"].back()["settings"] = Json::parse(photo_head_settings_text(*set.settings));
        }
        for (const Source& s : subject.sources) {
            Json source = {{"id", id_text(s.id.value)},
                           {"name", s.name},
                           {"path", s.path},
                           {"mesh", keep(mesh_to_blob(*s.mesh))},
                           {"landmarks", Json::parse(landmarks_text(s.landmarks))},
                           {"notes", s.notes}};
            if (s.unit) source["unit"] = unit_name(*s.unit);
            source["shown_unit"] = unit_name(s.shown_unit), source["up"] = up_axis_name(s.up);
            source["unit_reason"] = s.unit_reason, source["up_reason"] = s.up_reason;
            source["upright"] = similarity_json(s.upright);
            if (s.ignored) source["ignored"] = keep(array_blob(*s.ignored));
            source["recipe"] = Json::parse(recipe_text(s.recipe));
            source["recipe_said"] = s.recipe_said, source["stamp"] = s.stamp;
            j["sources"].push_back(source);
        }
        for (const FitRecord& f : subject.fits) {
            j["fits"].push_back({{"id", id_text(f.id.value)},
                                 {"name", f.name},
                                 {"source", f.source},
                                 {"positions", keep(array_blob(*f.positions))},
                                 {"distances", keep(array_blob(*f.distances))},
                                 {"source_to_kit", similarity_json(f.source_to_kit)},
                                 {"size_ratio", f.size_ratio},
                                 {"settings", Json::parse(fit_settings_text(f.settings))},
                                 {"figures", Json::parse(figures_text(f.figures))},
                                 {"notes", f.notes}});
            Json& fit = j["fits"].back();
            if (f.source_id) fit["source_id"] = id_text(f.source_id.value);
            if (f.photo_set_id) fit["photo_set_id"] = id_text(f.photo_set_id.value);
            if (f.pose)
                fit["pose"] = {{"turns", keep(array_blob(f.pose->turns))},
                               {"stretch", keep(array_blob(f.pose->stretch))},
                               {"move", {f.pose->move.x(), f.pose->move.y(), f.pose->move.z()}}};
            if (f.landmarks) fit["landmarks"] = Json::parse(landmarks_text(*f.landmarks));
            if (f.ignored) fit["ignored"] = keep(array_blob(*f.ignored));
            pack_photo_head(f, fit, [this](std::string bytes) { return keep(std::move(bytes)); });
            if (!f.touch || !f.fitted) continue;
            fit["fitted"] = keep(array_blob(*f.fitted));
            fit["touch"] = {{"vertices", keep(array_blob(f.touch->vertex))},
                            {"moves", keep(array_blob(f.touch->move))},
                            {"amount", f.touch->amount},
                            {"on", f.touch->on},
                            {"figures_old", f.figures_old}};
        }
        j["chosen_fit"] = subject.chosen_fit;
        return j;
    }
};

}  // namespace

Json pack_state(const ProjectState& state, const std::string& folder, std::map<std::string, std::string>& blobs) {
    Packer packer;
    Json out = packer.pack(state, folder);
    blobs = std::move(packer.blobs);
    return out;
}

}  // namespace veld
