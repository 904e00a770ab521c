#include <algorithm>
#include <filesystem>

#include "core/base/file.h"
#include "core/io/obj.h"
#include "core/kit/expression_file.h"
#include "core/kit/kit_frame.h"
#include "core/kit/kit_reader.h"
#include "core/kit/lips.h"
#include "core/kit/original.h"
#include "core/kit/own_files.h"

namespace veld {

const Json* KitReader::member(const char* name, bool required) {
    const auto at = json_.find(name);
    if (at == json_.end()) {
        if (required) fail(std::string("'") + name + "' is missing.");
        return nullptr;
    }
    return &*at;
}

bool KitReader::indices(const Json& j, std::size_t count, const std::string& where, std::vector<Index>& out) {
    if (!j.is_array()) return fail(where + " is not a list.");
    out.resize(j.size());
    for (std::size_t i = 0; i < j.size(); ++i) {
        if (!index(j[i], count, where, out[i])) return false;
    }
    return true;
}

bool KitReader::point(const Json& j, const std::string& where, Vec3& out) {
    if (!j.is_array() || j.size() != 3) return fail(where + " is not three numbers.");
    for (std::size_t k = 0; k < 3; ++k) {
        if (!number(j[k], where, out[static_cast<int>(k)])) return false;
    }
    return true;
}

// A vertex number, or {"face":f,"corners":[a,b,c],"weights":[x,y,z]}
bool KitReader::place(const Json& j, const std::string& where, SurfacePoint& out) {
    const Mesh& mesh = kit_.mesh;
    if (j.is_number()) {
        Index v = 0;
        if (!index(j, mesh.positions.size(), where, v)) return false;
        out.face = vertex_face_[v];
        if (out.face == kNone) return fail(where + ": vertex " + std::to_string(v) + " is used by no face.");
        const Index first = mesh.face_start[out.face], size = mesh.face_size(out.face);
        for (Index c = 0; c < size; ++c) {
            if (mesh.corner_vertex[first + c] != v) continue;
            for (Index k = 0; k < 3; ++k) out.vertices[k] = mesh.corner_vertex[first + (c + k) % size];
        }
        out.weights = {1, 0, 0};
        return true;
    }
    if (!j.is_object() || !j.contains("face") || !j.contains("corners") || !j.contains("weights")) {
        return fail(where + " is neither a vertex nor a face with corners and weights.");
    }
    if (!index(j["face"], mesh.face_count(), where, out.face)) return false;
    std::vector<Index> corners;
    if (!indices(j["corners"], mesh.face_size(out.face), where, corners)) return false;
    if (corners.size() != 3 || !j["weights"].is_array() || j["weights"].size() != 3) {
        return fail(where + " needs three corners and three weights.");
    }
    double sum = 0;
    for (std::size_t k = 0; k < 3; ++k) {
        if (!number(j["weights"][k], where, out.weights[k])) return false;
        out.vertices[k] = mesh.corner_vertex[mesh.face_start[out.face] + corners[k]];
        sum += out.weights[k];
    }
    return std::abs(sum - 1) < 1e-6 || fail(where + ": the weights add up to " + std::to_string(sum) + ", not 1.");
}

bool KitReader::mesh() {
    const std::string name =
        json_.contains("mesh") && json_["mesh"].is_string() ? json_["mesh"].get<std::string>() : "figure.obj";
    auto file = read_mesh(folder_ + "/" + name);
    if (!file) return fail(file.error().message);
    kit_.mesh = std::move(file->mesh);
    kit_.triangulation = triangulate(kit_.mesh);
    kit_.topology_key = topology_key(kit_.mesh);
    if (const Json* counts = member("counts", false)) {
        const auto differs = [&](const char* key, std::size_t have) {
            const auto at = counts->find(key);
            if (at == counts->end() || (at->is_number() && at->get<double>() == static_cast<double>(have)))
                return false;
            fail("'counts' promises " + at->dump() + " " + key + ", but " + name + " has " + std::to_string(have) +
                 ". The two files are not from the same kit.");
            return true;
        };
        if (differs("vertices", kit_.mesh.positions.size()) || differs("faces", kit_.mesh.face_count()) ||
            differs("uvs", kit_.mesh.uvs.size())) {
            return false;
        }
    }
    vertex_face_.assign(kit_.mesh.positions.size(), kNone);
    for (Index f = kit_.mesh.face_count(); f-- > 0;) {
        for (Index c = kit_.mesh.face_start[f]; c < kit_.mesh.face_start[f + 1]; ++c)
            vertex_face_[kit_.mesh.corner_vertex[c]] = f;
    }
    return true;
}

bool KitReader::parts() {
    const Json* parts = member("parts", true);
    if (!parts || !parts->is_object()) return fail("'parts' is missing or no object.");
    for (const auto& [name, j] : parts->items()) {
        const std::string where = "part '" + name + "'";
        if (!j.is_object() || !j.contains("first_face") || !j.contains("faces"))
            return fail(where + " lacks its faces.");
        KitPart part;
        part.name = name;
        if (!index(j["first_face"], kit_.mesh.face_count(), where, part.first_face)) return false;
        if (!index(j["faces"], std::size_t{kit_.mesh.face_count()} - part.first_face + 1, where, part.face_count))
            return false;
        for (Index f = part.first_face; f < part.first_face + part.face_count; ++f) {
            for (Index c = kit_.mesh.face_start[f]; c < kit_.mesh.face_start[f + 1]; ++c)
                part.vertices.push_back(kit_.mesh.corner_vertex[c]);
        }
        if (j.contains("goes_with")) {
            part.told = j["goes_with"].is_string() ? part_rule_from_name(j["goes_with"]) : std::nullopt;
            if (!part.told) return fail(where + " goes with " + j["goes_with"].dump() + ", which is no rule.");
        }
        std::sort(part.vertices.begin(), part.vertices.end());
        part.vertices.erase(std::unique(part.vertices.begin(), part.vertices.end()), part.vertices.end());
        kit_.parts.push_back(std::move(part));
    }
    std::stable_sort(kit_.parts.begin(), kit_.parts.end(),
                     [](const KitPart& a, const KitPart& b) { return a.first_face < b.first_face; });
    return kit_.part("skin") || fail("there is no part 'skin'.");
}

bool KitReader::regions() {
    const Json* regions = member("regions", true);
    if (!regions || !regions->is_object()) return fail("'regions' is missing or no object.");
    for (const auto& [name, j] : regions->items()) {
        std::vector<Index>& region = kit_.regions[name];
        if (!indices(j, kit_.mesh.positions.size(), "region '" + name + "'", region)) return false;
        std::sort(region.begin(), region.end());
    }
    if (const Json* ring = member("neck_ring", false))
        return indices(*ring, kit_.mesh.positions.size(), "'neck_ring'", kit_.neck_ring);
    return true;
}

bool KitReader::landmarks() {
    const Json* points = member("landmarks", true);
    if (!points || !points->is_object()) return fail("'landmarks' is missing or no object.");
    for (const auto& [name, j] : points->items()) {
        if (!place(j, "landmark '" + name + "'", kit_.landmarks[name])) return false;
    }
    const Json* positions = member("landmark_positions", false);
    if (positions && positions->is_object()) {
        for (const auto& [name, j] : positions->items()) {
            Vec3 p;
            const auto at = kit_.landmarks.find(name);
            if (at == kit_.landmarks.end() || !point(j, "landmark position '" + name + "'", p))
                return fail("'landmark_positions' has '" + name + "', 'landmarks' has not.");
            if ((p - at->second.at(kit_.mesh.positions)).norm() > 0.5) {
                return fail("landmark '" + name +
                            "' lies elsewhere than its stored position: the mesh was reordered or moved.");
            }
        }
    }
    const Json* curves = member("curves", false);
    if (!curves) return true;
    if (!curves->is_object()) return fail("'curves' is no object.");
    for (const auto& [name, j] : curves->items()) {
        if (!j.is_array() || j.size() < 2) return fail("curve '" + name + "' needs at least two places.");
        for (const Json& p : j) {
            kit_.curves[name].emplace_back();
            if (!place(p, "curve '" + name + "'", kit_.curves[name].back())) return false;
        }
    }
    return true;
}

// Added by users beside the kit; the file need not be there.
bool KitReader::own_landmarks() {
    const std::string path = folder_ + "/" + kOwnFile;
    if (!std::filesystem::exists(path)) return true;
    auto bytes = read_file(path);
    if (!bytes) return fail(bytes.error().message);
    const auto text = bytes->view();
    const Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (!json.is_object() || !json.contains("format") || json["format"] != "veldstone-kit-landmarks")
        return fail(std::string(kOwnFile) + " is damaged; repair or remove it.");
    const Json points = json.value("points", Json::object()), curves = json.value("curves", Json::object());
    for (const auto& [name, j] : points.items()) {
        if (!place(j, std::string(kOwnFile) + ": point '" + name + "'", kit_.landmarks[name])) return false;
    }
    for (const auto& [name, j] : curves.items()) {
        if (!j.is_array() || j.size() < 2)
            return fail(std::string(kOwnFile) + ": curve '" + name + "' needs at least two places.");
        kit_.curves[name].clear();
        for (const Json& p : j) {
            kit_.curves[name].emplace_back();
            if (!place(p, std::string(kOwnFile) + ": curve '" + name + "'", kit_.curves[name].back())) return false;
        }
    }
    return true;
}

bool KitReader::mirror() {
    const Json* map = member("mirror", true);
    if (!map || !indices(*map, kit_.mesh.positions.size(), "'mirror'", kit_.mirror)) return false;
    if (kit_.mirror.size() != kit_.mesh.positions.size()) {
        return fail("'mirror' has " + std::to_string(kit_.mirror.size()) + " entries for " +
                    std::to_string(kit_.mesh.positions.size()) + " vertices.");
    }
    for (Index v = 0; v < kit_.mirror.size(); ++v) {
        if (kit_.mirror[kit_.mirror[v]] != v)
            return fail("'mirror' is not its own inverse at vertex " + std::to_string(v) + ".");
    }
    const Json* alone = member("unpaired", false);
    return !alone || indices(*alone, kit_.mesh.positions.size(), "'unpaired'", kit_.unpaired);
}

bool KitReader::expressions() {
    const Json* list = member("expressions", false);
    if (!list) return true;
    if (!list->is_object()) return fail("'expressions' is no object.");
    for (const auto& [name, j] : list->items()) {
        if (!j.is_string()) return fail("expression '" + name + "' names no file.");
        const std::string path = folder_ + "/" + j.get<std::string>();
        if (lower_extension(path) == ".morph") {
            const auto bytes = read_file(path);
            if (!bytes) return fail(bytes.error().message);
            auto shape = expression_from(bytes->view(), path, kit_);
            if (!shape) return fail("expression '" + name + "': " + shape.error().message);
            kit_.expressions[name] = std::move(*shape);
            continue;
        }
        auto file = read_mesh(path);
        if (!file) return fail(file.error().message);
        if (file->mesh.positions.size() != kit_.mesh.positions.size() ||
            file->mesh.corner_vertex != kit_.mesh.corner_vertex) {
            return fail("expression '" + name + "' has another topology (" +
                        std::to_string(file->mesh.positions.size()) + " vertices, the base has " +
                        std::to_string(kit_.mesh.positions.size()) + ").");
        }
        kit_.expressions[name] = std::move(file->mesh.positions);
    }
    return true;
}

// {"head_mesh": {"file": "head.obj", "vertices": [of the base, one per vertex of the head]}}
bool KitReader::head() {
    const Json* j = member("head_mesh", false);
    if (!j) return true;
    if (!j->is_object() || !j->contains("file") || !(*j)["file"].is_string() || !j->contains("vertices"))
        return fail("'head_mesh' lacks its file or its vertices.");
    const std::string name = (*j)["file"].get<std::string>();
    auto file = read_mesh(folder_ + "/" + name);
    if (!file) return fail(file.error().message);
    if (!indices((*j)["vertices"], kit_.mesh.positions.size(), "'head_mesh'", kit_.head_vertices)) return false;
    kit_.head = std::move(file->mesh);
    if (kit_.head_vertices.size() != kit_.head.positions.size())
        return fail("'head_mesh' names " + std::to_string(kit_.head_vertices.size()) + " vertices, but " + name +
                    " has " + std::to_string(kit_.head.positions.size()) + ".");
    for (Index v = 0; v < kit_.head_vertices.size(); ++v) {
        if ((kit_.head.positions[v] - kit_.mesh.positions[kit_.head_vertices[v]]).norm() > 0.01)
            return fail("vertex " + std::to_string(v) + " of " + name + " lies elsewhere than the base's vertex " +
                        std::to_string(kit_.head_vertices[v]) + ".");
    }
    return true;
}

// Painted by users, beside the kit; the file need not be there.
bool KitReader::share_weights() {
    const std::string path = folder_ + "/" + kShareFile;
    if (!std::filesystem::exists(path)) return true;
    auto bytes = read_file(path);
    if (!bytes) return fail(bytes.error().message);
    std::string why;
    kit_.head_share = share_weights_from(bytes->view(), kit_.topology_key, kit_.mesh.positions.size(), why);
    return why.empty() || fail(why);
}

bool KitReader::known_heads() {
    const std::string path = folder_ + "/" + kKnownHeadsFile;
    if (!std::filesystem::exists(path)) return true;
    auto bytes = read_file(path);
    if (!bytes) return fail(bytes.error().message);
    std::string why;
    auto heads = known_heads_from(bytes->view(), kit_.topology_key, kit_.mesh.positions.size(), why);
    if (!why.empty()) return fail(why);
    kit_.known_heads = std::make_shared<const KnownHeads>(std::move(heads));
    return true;
}

bool KitReader::original() {
    const Json* j = member("original", false);
    if (!j) return true;
    std::string why;
    kit_.original = original_from(j->dump(), kit_.mesh.positions.size(), why);
    return why.empty() || fail(why);
}

// [{"name": "half", "file": "reduced_half.obj", "key": ..., "vertices": 4000, "to_kit": {...}}]
bool KitReader::reduced() {
    const Json* list = member("reduced", false);
    if (!list) return true;
    if (!list->is_array()) return fail("'reduced' is no list.");
    for (const Json& j : *list) {
        KitReduced r;
        try {
            r.name = j.at("name").get<std::string>();
            r.file = j.at("file").get<std::string>();
            r.key = j.at("key").get<std::string>();
            r.vertices = j.at("vertices").get<std::size_t>();
            r.to_kit = frame_from(j.at("to_kit"));
        } catch (const Json::exception&) {
            return fail("a reduced version lacks its name, file, key, vertices or frame.");
        }
        if (r.name.empty() || r.file.empty() || r.file.find('/') != std::string::npos || !is_frame(r.to_kit))
            return fail("the reduced version '" + r.name + "' names no file beside the kit, or no frame.");
        kit_.reduced.push_back(std::move(r));
    }
    return true;
}

Result<BaseKit> KitReader::run() {
    folder_ = folder_of(file_);
    kit_.folder = folder_;
    const auto format = json_.find("format");
    if (format == json_.end() || *format != "veldstone-figure")
        fail("'format' is not 'veldstone-figure', so this is no base kit.");
    if (why_.empty() && (!json_.contains("version") || (json_["version"] != 1 && json_["version"] != 2)))
        fail("this program reads kits of versions 1 and 2; a newer program wrote this one.");
    if (why_.empty() && json_.contains("unit") && json_["unit"] != "mm")
        fail("a kit is kept in millimetres ('unit').");
    const bool ok = why_.empty() && mesh() && parts() && regions() && landmarks() && own_landmarks() && mirror() &&
                    joints() && weights() && joint_ties() && eyes() && expressions() && head() && share_weights() &&
                    known_heads() && original() && own_rig() && rest_poses() && reduced() && doubts();
    if (!ok) return Error{ErrorCode::BadFile, "Base kit '" + file_ + "': " + why_};
    add_inner_lips(kit_);
    return std::move(kit_);
}

Result<BaseKit> read_base_kit(const std::string& folder) {
    const bool is_file = lower_extension(folder) == ".json";
    const std::string file = is_file ? folder : (std::filesystem::path(folder) / "figure.json").string();
    auto bytes = read_file(file);
    if (!bytes) return bytes.error();
    const std::string_view text = bytes->view();
    Json json = Json::parse(text.begin(), text.end(), nullptr, false);
    if (json.is_discarded() || !json.is_object()) {
        return Error{ErrorCode::BadFile, "Base kit '" + file + "': is no complete JSON file. It may be cut short."};
    }
    return KitReader(file, std::move(json)).run();
}

}  // namespace veld
