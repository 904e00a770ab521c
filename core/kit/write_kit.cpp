#include "core/kit/write_kit.h"

#include <stdlib.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <filesystem>
#include <set>

#include "core/base/file.h"
#include "core/base/json.h"
#include "core/io/mesh_write.h"
#include "core/io/obj.h"
#include "core/kit/expression_file.h"
#include "core/kit/kit_frame.h"
#include "core/kit/original.h"
#include "core/kit/own_files.h"
#include "core/rig/pose_file.h"

namespace veld {
namespace {
namespace fs = std::filesystem;

constexpr const char* kMeshFile = "base.obj";
constexpr const char* kFigureFile = "figure.json";
constexpr fs::perms kFolderRights = fs::perms::owner_all | fs::perms::group_read | fs::perms::group_exec |
                                    fs::perms::others_read | fs::perms::others_exec;
constexpr std::size_t kLongestName = 100;  // of an expression's file

Json point_json(const Vec3& p) { return {p.x(), p.y(), p.z()}; }

// A place: the vertex, or the face with three of its corners.
Json place_json(const Mesh& mesh, const SurfacePoint& p) {
    Json corners = Json::array();
    for (const Index v : p.vertices) {
        for (Index c = 0; c < mesh.face_size(p.face); ++c) {
            if (mesh.corner_vertex[mesh.face_start[p.face] + c] == v) {
                corners.push_back(c);
                break;
            }
        }
    }
    return {{"face", p.face}, {"corners", corners}, {"weights", p.weights}};
}

Json weights_json(const BaseKit& kit) {
    Json out = Json::object();
    for (std::size_t j = 0; j < kit.joints.size(); ++j) {
        Json index = Json::array(), weight = Json::array();
        for (Index v = 0; v < kit.weights.joint.size(); ++v) {
            for (std::size_t k = 0; k < 4; ++k) {
                if (kit.weights.joint[v][k] != j || !(kit.weights.weight[v][k] > 0)) continue;
                index.push_back(v);
                weight.push_back(kit.weights.weight[v][k]);
            }
        }
        if (!index.empty()) out[kit.joints[j].name] = {{"index", index}, {"weight", weight}};
    }
    return out;
}

Json joints_json(const std::vector<Joint>& joints) {
    Json out = Json::array();
    for (const Joint& joint : joints)
        out.push_back(
            {{"name", joint.name},
             {"parent", joint.parent < 0 ? Json(nullptr) : Json(joints[static_cast<std::size_t>(joint.parent)].name)},
             {"pos", point_json(joint.position)}});
    return out;
}

std::string for_a_file(std::string name) {
    name = name.substr(0, kLongestName);
    for (char& c : name) {
        if (static_cast<unsigned char>(c) < ' ' || std::string_view("/\\:*?\"<>|.").find(c) != std::string_view::npos)
            c = '_';
    }
    return name;
}

// Files of expressions, by name; a name may hold what a file's cannot.
std::map<std::string, std::string> expression_files(const BaseKit& kit) {
    std::map<std::string, std::string> out;
    std::set<std::string> taken;
    for (const auto& [name, shape] : kit.expressions) {
        std::string file = for_a_file(name);
        const std::string wanted = file;
        for (int n = 2; !taken.insert(file).second; ++n) file = wanted + "_" + std::to_string(n);
        out[name] = "expressions/" + file + ".morph";
    }
    return out;
}

// Reduced versions as they are in the folder: what lies elsewhere yet gets a file there. from: what is to be copied.
std::vector<KitReduced> settled(const BaseKit& kit, std::map<std::string, std::string>& from) {
    std::vector<KitReduced> out = kit.reduced;
    std::set<std::string> taken;
    for (const KitReduced& r : out) taken.insert(r.file);
    for (KitReduced& r : out) {
        if (r.file.find('/') == std::string::npos) continue;
        const std::string wanted = "reduced_" + for_a_file(r.name), kind = ending_to_keep(r.file);
        std::string file = wanted + kind;
        for (int n = 2; !taken.insert(file).second; ++n) file = wanted + "_" + std::to_string(n) + kind;
        from[file] = r.file;
        r.file = file;
    }
    return out;
}

Json figure_json(const BaseKit& kit, const std::vector<KitReduced>& reduced) {
    Json json = {{"format", "veldstone-figure"}, {"version", 2}, {"unit", "mm"}, {"mesh", kMeshFile}};
    json["counts"] = {
        {"vertices", kit.mesh.positions.size()}, {"faces", kit.mesh.face_count()}, {"uvs", kit.mesh.uvs.size()}};
    for (const KitPart& part : kit.parts) {
        Json& j = json["parts"][part.name] = {{"first_face", part.first_face}, {"faces", part.face_count}};
        if (part.told) j["goes_with"] = part_rule_name(*part.told);
    }
    json["regions"] = Json::object();
    for (const auto& [name, vertices] : kit.regions) json["regions"][name] = vertices;
    if (!kit.neck_ring.empty()) json["neck_ring"] = kit.neck_ring;
    json["landmarks"] = Json::object();
    for (const auto& [name, place] : kit.landmarks) json["landmarks"][name] = place_json(kit.mesh, place);
    json["curves"] = Json::object();
    for (const auto& [name, places] : kit.curves) {
        for (const SurfacePoint& place : places) json["curves"][name].push_back(place_json(kit.mesh, place));
    }
    json["mirror"] = kit.mirror;
    if (!kit.unpaired.empty()) json["unpaired"] = kit.unpaired;
    json["joints"] = joints_json(kit.joints);
    if (kit.own_rig) {
        json["own_rig"] = {{"joints", joints_json(kit.own_rig->joints)}, {"roles", kit.own_rig->roles}};
        if (!kit.own_rig->file.empty())
            json["own_rig"]["file"] = kit.own_rig->file, json["own_rig"]["key"] = kit.own_rig->key;
    }
    json["rest_poses"] = Json::object();  // none of them: that is said too
    for (const auto& [name, pose] : kit.rest_poses)
        json["rest_poses"][name] = Json::parse(pose_text(pose, kit.joints));
    for (const KitReduced& r : reduced)
        json["reduced"].push_back({{"name", r.name},
                                   {"file", r.file},
                                   {"key", r.key},
                                   {"vertices", r.vertices},
                                   {"to_kit", frame_json(r.to_kit)}});
    if (!kit.doubts.empty()) json["doubts"] = kit.doubts;
    if (!kit.by_hand.empty()) json["by_hand"] = kit.by_hand;
    if (!kit.joints.empty()) json["skin_weights"] = weights_json(kit);
    for (const auto& [name, tie] : kit.joint_ties)
        json["joint_ties"][name] = {{"index", tie.vertex}, {"weight", tie.weight}};
    for (const KitEye& eye : kit.eyes)
        json["eyes"][eye.part.substr(eye.part.size() - 1)] = {
            {"centre", point_json(eye.centre)}, {"radius", eye.radius}, {"part", eye.part}};
    for (const auto& [name, file] : expression_files(kit)) json["expressions"][name] = file;
    if (kit.original) json["original"] = Json::parse(original_text(*kit.original));
    return json;
}

// name in the folder <- path
Status copy_into(const fs::path& folder, const std::map<std::string, std::string>& from) {
    for (const auto& [name, path] : from) {
        auto bytes = bytes_to_keep(path);
        if (!bytes) return bytes.error();
        if (auto ok = write_file((folder / name).string(), *bytes); !ok) return ok;
    }
    return Done{};
}

Status write_into(const BaseKit& kit, const fs::path& folder, const std::vector<std::string>& originals) {
    std::error_code failed;
    fs::create_directories(folder / "expressions", failed);
    if (failed) return Error{ErrorCode::Io, "'" + folder.string() + "' cannot be made: " + failed.message() + "."};
    if (auto ok = write_mesh((folder / kMeshFile).string(), kit.mesh, 0.001, "Base kit; mm, Y up, facing +Z"); !ok)
        return ok;
    for (const auto& [name, file] : expression_files(kit)) {
        if (auto ok = write_file((folder / file).string(), expression_text(kit, name)); !ok) return ok;
    }
    if (kit.known_heads) {
        const std::string bytes = known_heads_bytes(*kit.known_heads, kit.topology_key);
        if (auto ok = write_file((folder / kKnownHeadsFile).string(), bytes); !ok) return ok;
    }
    std::map<std::string, std::string> from;
    const std::vector<KitReduced> reduced = settled(kit, from);
    const std::vector<std::string> names = kit_originals(kit);
    for (std::size_t i = 0; i < names.size(); ++i)
        from[names[i]] = i < originals.size() ? originals[i] : std::string();
    if (auto ok = copy_into(folder, from); !ok) return ok;
    return write_file((folder / kFigureFile).string(),
                      figure_json(kit, reduced).dump(-1, ' ', false, Json::error_handler_t::replace));
}

}  // namespace

Status write_base_kit(const BaseKit& kit, const std::string& folder, const std::vector<std::string>& originals) {
    const fs::path wanted = fs::absolute(fs::path(folder)).lexically_normal();
    std::error_code failed;
    const bool there = fs::exists(wanted, failed) && !fs::is_empty(wanted, failed);
    if (there && !fs::exists(wanted / kFigureFile, failed))
        return Error{ErrorCode::BadInput,
                     "'" + folder + "' holds other files and no kit. Name an empty or a new folder."};
    // beside the wanted one, under names that nobody has
    const auto beside = [&]() -> fs::path {
        fs::create_directories(wanted.parent_path(), failed);
        std::string name = wanted.string() + "-XXXXXX";
        return ::mkdtemp(name.data()) ? fs::path(name) : fs::path();
    };
    const fs::path fresh = beside(), old = beside();
    if (fresh.empty() || old.empty()) {
        if (!fresh.empty()) fs::remove(fresh, failed);
        return Error{ErrorCode::Io, "Nothing can be written beside '" + folder + "': " + std::strerror(errno) + "."};
    }
    fs::permissions(fresh, kFolderRights, failed);  // mkdtemp lets nobody else in
    if (auto ok = write_into(kit, fresh, originals); !ok) {
        fs::remove_all(fresh, failed);
        fs::remove(old, failed);
        return ok;
    }
    const auto before = there ? read_base_kit(wanted.string()) : Result<BaseKit>(Error{});
    if (before && before->topology_key == kit.topology_key) {
        // what users added to the kit stays with it
        for (const char* own : {kOwnFile, kShareFile}) {
            std::error_code none;
            if (fs::exists(wanted / own, none)) fs::copy_file(wanted / own, fresh / own, none);
        }
    }
    failed.clear();
    if (fs::exists(wanted)) fs::rename(wanted, old, failed);
    if (!failed) fs::rename(fresh, wanted, failed);
    if (failed) {
        std::error_code ignored;
        if (!fs::exists(wanted, ignored) && !fs::is_empty(old, ignored)) fs::rename(old, wanted, ignored);
        fs::remove(old, ignored);  // only when it is empty
        fs::remove_all(fresh, ignored);
        return Error{ErrorCode::Io, "The kit '" + folder + "' cannot be written: " + failed.message() + "."};
    }
    fs::remove_all(old, failed);
    return Done{};
}

Status update_base_kit(const BaseKit& kit) {
    const fs::path folder = kit.folder;
    const std::string file = (folder / kFigureFile).string();
    auto bytes = read_file(file);
    if (!bytes) return bytes.error();
    const std::string_view text = bytes->view();
    Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (!json.is_object()) return Error{ErrorCode::BadFile, "'" + file + "' is no complete JSON file."};
    std::map<std::string, std::string> from;
    const Json fresh = figure_json(kit, settled(kit, from));
    const std::size_t count = kit.mesh.positions.size();
    if (json.value("counts", Json::object()).value("vertices", count) != count)
        return Error{ErrorCode::BadFile, "'" + file +
                                             "' is another base mesh's by now. Save the kit in a folder of its own "
                                             "instead; nothing was written."};
    for (const char* key : {"version", "regions", "neck_ring", "landmarks", "curves", "joints", "skin_weights",
                            "joint_ties", "own_rig", "rest_poses", "reduced", "doubts", "by_hand"}) {
        if (fresh.contains(key))
            json[key] = fresh[key];
        else
            json.erase(key);
    }
    for (const KitPart& part : kit.parts) {
        Json& j = json["parts"][part.name];
        j.erase("goes_with");
        if (part.told) j["goes_with"] = part_rule_name(*part.told);
    }
    if (auto ok = copy_into(folder, from); !ok) return ok;
    json.erase("landmark_positions");  // of the landmarks that were
    if (auto ok = write_file(file, json.dump(-1, ' ', false, Json::error_handler_t::replace)); !ok) return ok;
    std::error_code none;
    fs::remove(folder / kOwnFile, none);  // they are in figure.json now
    return Done{};
}

std::vector<KitReduced> reduced_in_folder(const BaseKit& kit) {
    std::map<std::string, std::string> from;
    return settled(kit, from);
}

Status copy_base_kit(const BaseKit& kit, const std::string& folder) {
    std::error_code failed;
    if (fs::exists(folder, failed) && !fs::is_empty(folder, failed))
        return Error{ErrorCode::BadInput, "'" + folder + "' is not empty. Name an empty or a new folder."};
    const fs::path from = fs::weakly_canonical(kit.folder, failed), to = fs::weakly_canonical(folder, failed);
    if (std::mismatch(from.begin(), from.end(), to.begin(), to.end()).first == from.end())
        return Error{ErrorCode::BadInput, "'" + folder + "' lies in the kit itself. Name a folder outside of it."};
    failed.clear();
    fs::create_directories(folder, failed);
    if (!failed) fs::copy(kit.folder, folder, fs::copy_options::recursive, failed);
    BaseKit copy = kit;
    copy.folder = folder;
    const Status ok =
        failed
            ? Status(Error{ErrorCode::Io, "The kit cannot be copied to '" + folder + "': " + failed.message() + "."})
            : update_base_kit(copy);
    if (!ok) fs::remove_all(folder, failed);  // it was new or empty
    return ok;
}

}  // namespace veld
