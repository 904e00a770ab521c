#include "core/project/state_json.h"

#include <algorithm>
#include <filesystem>
#include <set>

#include "core/fit/settings_text.h"
#include "core/kit/base_kit.h"
#include "core/kit_making/edit_kit.h"
#include "core/project/records/packing.h"
#include "core/skin/layers.h"

namespace veld {
namespace {

namespace fs = std::filesystem;

Json place_json(const SurfacePoint& p) { return {{"face", p.face}, {"vertices", p.vertices}, {"weights", p.weights}}; }

// False: it lies on no vertex of the base.
bool place_from(const Json& j, std::size_t vertices, SurfacePoint& place) {
    place.face = j.at("face");
    place.vertices = j.at("vertices");
    place.weights = j.at("weights");
    return std::all_of(place.vertices.begin(), place.vertices.end(), [&](Index v) { return v < vertices; });
}

Json pack_subject(const Subject& subject, BlobWriter& blobs) {
    Json j = {{"id", id_text(subject.id.value)},
              {"name", subject.name},
              {"sources", Json::array()},
              {"fits", Json::array()},
              {"photo_sets", Json::array()}};
    for (const PhotoSet& set : subject.photo_sets) j["photo_sets"].push_back(pack_photo_set(set, blobs));
    for (const Source& source : subject.sources) j["sources"].push_back(pack_source(source, blobs));
    for (const FitRecord& fit : subject.fits) j["fits"].push_back(pack_fit(fit, blobs));
    j["current_fit"] = subject.current_fit;
    for (const auto& skin : subject.skins) j["skins"].push_back(pack_skin(*skin, blobs));
    if (!subject.skins.empty()) j["current_skin"] = subject.current_skin;
    return j;
}

Result<Subject> unpack_subject(const Json& j, const BaseKit& kit, const BlobReader& blobs) {
    Subject out;
    read_id(j, "id", out.id);
    out.name = j.at("name");
    for (const Json& s : j.at("sources")) {
        auto source = unpack_source(s, kit, blobs);
        if (!source) return source.error();
        out.sources.push_back(std::move(*source));
    }
    const Json sets = j.value("photo_sets", Json::array());
    for (const Json& s : sets) {
        auto set = unpack_photo_set(s, blobs);
        if (!set) return set.error();
        out.photo_sets.push_back(std::move(*set));
    }
    for (const Json& f : j.at("fits")) {
        auto fit = unpack_fit(f, kit, out, blobs);
        if (!fit) return fit.error();
        out.fits.push_back(std::move(*fit));
    }
    out.current_fit = j.value("current_fit", j.value("chosen_fit", -1));  // as it was named before
    const Json skins = j.value("skins", Json::array());
    for (const Json& s : skins) {
        auto skin = unpack_skin(s, blobs);
        if (!skin) return skin.error();
        out.skins.push_back(std::move(*skin));
    }
    out.current_skin = j.value("current_skin", 0);
    for (std::size_t i = 0; i < out.fits.size(); ++i) {
        auto skin = unpack_fit_skin(j.at("fits")[i], kit, blobs);
        if (!skin) return skin.error();
        if (!*skin) continue;
        if (skins.empty() && static_cast<int>(i) == out.current_fit)
            out.current_skin = static_cast<int>(out.skins.size());
        std::vector<std::string> taken;
        for (const auto& one : out.skins) taken.push_back(one->name);
        auto named = std::make_shared<LayeredSkin>(**skin);
        named->name = free_name(named->name, taken);
        out.skins.push_back(std::move(named));
    }
    return out;
}

Status read_base_places(const Json& j, const BlobReader& blobs, ProjectState& out) {
    const std::size_t vertices = out.kit->mesh.positions.size();
    for (const auto& [name, p] : j.at("base_points").items()) {
        if (!place_from(p, vertices, out.base_points[name]))
            return blobs.damaged("a landmark of the base lies on no vertex.");
    }
    // projects of before there were own curves have none of these, and keep the kit's
    if (!j.contains("base_curves")) return Done{};
    out.base_curves.clear();
    for (const auto& [name, line] : j["base_curves"].items()) {
        for (const Json& p : line) {
            out.base_curves[name].emplace_back();
            if (!place_from(p, vertices, out.base_curves[name].back()))
                return blobs.damaged("a guide curve of the base lies on no vertex.");
        }
    }
    // nor do projects of before lips had inner edges
    for (const char* name : kInnerLips) {
        const auto kits = out.kit->curves.find(name);
        if (kits != out.kit->curves.end()) out.base_curves.try_emplace(name, kits->second);
    }
    return Done{};
}

// What was changed in the kit and is not in its folder.
Status read_kit_edits(const Json& j, ProjectState& out) {
    if (!j.contains("kit_edits")) return Done{};
    KitEdits& edits = out.kit_edits;
    for (const auto& [name, vertices] : j["kit_edits"].at("regions").items())
        edits.regions[name] = vertices.get<VertexIndices>();
    edits.roles = j["kit_edits"].at("roles").get<std::map<std::string, std::string>>();
    edits.looked_at = j["kit_edits"].at("looked_at").get<std::set<std::string>>();
    if (j["kit_edits"].contains("rules"))
        edits.rules = j["kit_edits"]["rules"].get<std::map<std::string, std::string>>();
    if (j["kit_edits"].contains("reduced"))
        edits.reduced = j["kit_edits"]["reduced"].get<std::map<std::string, std::string>>();
    if (j["kit_edits"].contains("ties")) {
        for (const auto& [name, tie] : j["kit_edits"]["ties"].items())
            edits.ties[name] = {tie.at("index").get<VertexIndices>(), tie.at("weight").get<std::vector<double>>()};
    }
    auto kit = edited_kit(*out.kit, edits);
    if (!kit && !(edits.roles.empty() && edits.reduced.empty())) {
        // files are gone: joints and reduced versions stay as the kit has them
        edits.roles.clear(), edits.reduced.clear();
        kit = edited_kit(*out.kit, edits);
    }
    if (!kit) return kit.error();
    out.kit = std::make_shared<BaseKit>(std::move(*kit));
    return Done{};
}

bool ids_differ(const ProjectState& state) {
    std::set<std::uint64_t> seen;
    const auto fresh = [&](const auto& list) {
        return std::all_of(list.begin(), list.end(),
                           [&](const auto& thing) { return seen.insert(thing.id.value).second; });
    };
    if (!fresh(state.subjects) || !fresh(state.bank)) return false;
    return std::all_of(state.subjects.begin(), state.subjects.end(), [&](const Subject& s) {
        return fresh(s.sources) && fresh(s.photo_sets) && fresh(s.fits) &&
               std::all_of(s.skins.begin(), s.skins.end(),
                           [&](const auto& skin) { return seen.insert(skin->id.value).second; });
    });
}

Status read_state(const Json& j, const BlobReader& blobs, ProjectState& out) {
    if (j.at("version") != 1) return blobs.damaged("it has a version that this program does not know.");
    if (j.at("topology") != out.kit->topology_key)
        return Error{ErrorCode::BadInput, "The project '" + blobs.path() +
                                              "' was made with another base mesh than the kit in '" + out.kit->folder +
                                              "'."};
    out.subject = j.at("subject");
    auto settings = parse_fit_settings(j.at("settings").dump(), blobs.path());
    if (!settings) return settings.error();
    out.settings = std::move(*settings);
    if (auto ok = read_base_places(j, blobs, out); !ok) return ok;
    for (const PointSet set : kPointSets) {
        if (j.value("asked", "head") == point_set_name(set)) out.asked = set;
    }
    for (const Json& s : j.at("subjects")) {
        auto subject = unpack_subject(s, *out.kit, blobs);
        if (!subject) return subject.error();
        out.subjects.push_back(std::move(*subject));
    }
    out.inbox = j.value("inbox", "");
    if (auto ok = unpack_bank(j, blobs, out); !ok) return ok;
    if (!ids_differ(out)) return blobs.damaged("two of its objects have one id.");
    return Done{};
}

}  // namespace

Json pack_state(const ProjectState& s, const std::string& folder, std::map<std::string, std::string>& blobs) {
    BlobWriter writer;
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
    if (!s.kit_edits.empty()) {
        j["kit_edits"] = {{"regions", s.kit_edits.regions},
                          {"roles", s.kit_edits.roles},
                          {"rules", s.kit_edits.rules},
                          {"reduced", s.kit_edits.reduced},
                          {"looked_at", s.kit_edits.looked_at}};
        for (const auto& [name, tie] : s.kit_edits.ties)
            j["kit_edits"]["ties"][name] = {{"index", tie.vertex}, {"weight", tie.weight}};
    }
    j["asked"] = point_set_name(s.asked);
    j["subjects"] = Json::array();
    for (const Subject& subject : s.subjects) j["subjects"].push_back(pack_subject(subject, writer));
    j["inbox"] = s.inbox;
    pack_bank(s, j, writer);
    blobs = writer.take();
    return j;
}

Result<ProjectState> unpack_state(const Json& json, std::shared_ptr<const BaseKit> kit, const BlobReader& blobs) {
    ProjectState out = new_project(std::move(kit));
    try {
        if (auto ok = read_kit_edits(json, out); !ok) return ok.error();
        if (auto ok = read_state(json, blobs, out); !ok) return ok.error();
    } catch (const Json::exception& e) {
        return blobs.damaged(e.what());
    }
    return out;
}

}  // namespace veld
