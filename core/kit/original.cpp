#include "core/kit/original.h"

#include <algorithm>
#include <filesystem>

#include "core/base/cache.h"
#include "core/base/file.h"
#include "core/base/json.h"
#include "core/io/gltf_rewrite.h"
#include "core/kit/kit_frame.h"

namespace veld {

Result<std::string> bytes_to_keep(const std::string& path) {
    if (lower_extension(path) == ".gltf") return pack_gltf(path);
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    return std::string(bytes->view());
}

std::string ending_to_keep(const std::string& path) {
    const std::string kind = lower_extension(path);
    return kind == ".gltf" ? ".glb" : kind;
}

std::string original_key(std::string_view bytes) {
    CacheKey key;
    key.mix(bytes.data(), bytes.size());
    const std::string name = key.file("kit", "key");
    return name.substr(4, name.size() - 8);
}

namespace {

Result<FileBytes> bytes_of(const BaseKit& kit, const std::string& file, const std::string& key) {
    const std::string path = (std::filesystem::path(kit.folder) / file).string();
    auto bytes = read_file(path);
    if (bytes && original_key(bytes->view()) != key)
        return Error{ErrorCode::BadFile, "'" + path + "' was changed since the kit was made. Make the kit again."};
    return bytes;
}

Error no_original() { return {ErrorCode::BadInput, "This kit was not made from a file: its mesh is its own."}; }

// `count` vertices from `first` on.
Points in_file_vertices(const KitOriginal& original, const Points& positions, std::size_t first, std::size_t count) {
    const Similarity back = original.to_kit.inverse();
    Points out;
    for (std::size_t v = first; v < first + count; ++v) out.push_back(back(positions[original.work_of[v]]));
    return out;
}

Result<Mesh> shaped_file(const BaseKit& kit, const Points& positions, const std::string& file, const std::string& key,
                         std::size_t first, std::size_t count) {
    if (const auto bytes = bytes_of(kit, file, key); !bytes) return bytes.error();
    const std::string path = (std::filesystem::path(kit.folder) / file).string();
    auto read = read_mesh(path);
    if (!read) return read.error();
    if (read->mesh.positions.size() != count)
        return Error{ErrorCode::BadFile, "'" + path + "' has another number of vertices than the kit remembers."};
    read->mesh.positions = in_file_vertices(*kit.original, positions, first, count);
    return std::move(read->mesh);
}

}  // namespace

std::vector<std::string> kit_originals(const BaseKit& kit) {
    std::vector<std::string> out;
    if (kit.original) {
        out.push_back(kit.original->file);
        for (const KitOriginal::More& more : kit.original->more) out.push_back(more.file);
    }
    if (kit.own_rig && !kit.own_rig->file.empty()) out.push_back(kit.own_rig->file);
    return out;
}

Result<Mesh> in_original(const BaseKit& kit, const Points& positions) {
    if (!kit.original) return no_original();
    const KitOriginal& o = *kit.original;
    return shaped_file(kit, positions, o.file, o.key, 0, o.main_vertices());
}

Result<std::vector<Mesh>> in_further_originals(const BaseKit& kit, const Points& positions) {
    if (!kit.original) return no_original();
    std::vector<Mesh> out;
    std::size_t first = kit.original->main_vertices();
    for (const KitOriginal::More& more : kit.original->more) {
        auto mesh = shaped_file(kit, positions, more.file, more.key, first, more.vertices);
        if (!mesh) return mesh.error();
        out.push_back(std::move(*mesh));
        first += more.vertices;
    }
    return out;
}

Result<Points> from_original(const BaseKit& kit, const Points& positions) {
    if (!kit.original || positions.size() != kit.original->main_vertices())
        return Error{ErrorCode::BadInput, "It has not as many vertices as the file that the kit was made from."};
    Points out = kit.mesh.positions;
    for (Index v = 0; v < positions.size(); ++v) out[kit.original->work_of[v]] = kit.original->to_kit(positions[v]);
    return out;
}

bool original_is_glb(const BaseKit& kit) { return kit.original && lower_extension(kit.original->file) == ".glb"; }

Result<std::string> rewritten_original(const BaseKit& kit, const Points& positions,
                                       const std::vector<FileTarget>& targets) {
    if (!kit.original) return no_original();
    const KitOriginal& original = *kit.original;
    const auto bytes = bytes_of(kit, original.file, original.key);
    if (!bytes) return bytes.error();
    const std::size_t count = original.main_vertices();
    GlbChange change;
    change.positions = in_file_vertices(original, positions, 0, count);
    const Points normals = vertex_normals(positions, kit.triangulation.triangles);
    const Similarity back = original.to_kit.inverse();
    for (std::size_t v = 0; v < count; ++v) change.normals.push_back(back.rotation * normals[original.work_of[v]]);
    for (const FileTarget& t : targets) {
        FileTarget own{t.name, t.about, {}};
        for (std::size_t v = 0; v < count; ++v)
            own.delta.push_back(back.scale * (back.rotation * t.delta[original.work_of[v]]));
        change.targets.push_back(std::move(own));
    }
    return rewrite_glb(bytes->view(), kit.original->file, change);
}

std::string original_text(const KitOriginal& o) {
    Json out = {{"file", o.file}, {"key", o.key}, {"vertices", o.work_of}, {"to_kit", frame_json(o.to_kit)}};
    for (const KitOriginal::More& m : o.more)
        out["more"].push_back({{"name", m.name}, {"file", m.file}, {"key", m.key}, {"vertices", m.vertices}});
    for (const auto& [vertex, part] : o.part_at) out["part_at"].push_back({vertex, part});
    return out.dump();
}

KitOriginal original_from(const std::string& text, std::size_t base_vertices, std::string& why) {
    KitOriginal out;
    try {
        const Json json = Json::parse(text);
        out.file = json.at("file").get<std::string>();
        out.key = json.at("key").get<std::string>();
        out.work_of = json.at("vertices").get<std::vector<Index>>();
        out.to_kit = frame_from(json.at("to_kit"));
        for (const Json& m : json.value("more", Json::array()))
            out.more.push_back({m.at("name").get<std::string>(), m.at("file").get<std::string>(),
                                m.at("key").get<std::string>(), m.at("vertices").get<std::size_t>()});
        for (const Json& told : json.value("part_at", Json::array()))
            out.part_at[told.at(0).get<Index>()] = told.at(1).get<std::string>();
    } catch (const std::exception&) {
        why = "'original' is damaged.";
        return {};
    }
    const bool inside =
        std::all_of(out.work_of.begin(), out.work_of.end(), [&](Index v) { return v < base_vertices; });
    if (!inside) why = "'original' names vertices that the base does not have.";
    std::size_t further = 0;
    for (const KitOriginal::More& m : out.more) {
        further += std::min(m.vertices, out.work_of.size());
        if (m.file.empty() || m.file.find('/') != std::string::npos) why = "'original' names no file beside the kit.";
    }
    if (further > out.work_of.size()) why = "'original' counts more vertices than it has.";
    if (out.file.empty() || out.file.find('/') != std::string::npos || !is_frame(out.to_kit))
        why = "'original' names no file beside the kit, or turns it into nothing.";
    return out;
}

}  // namespace veld
