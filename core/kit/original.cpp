#include "core/kit/original.h"

#include <algorithm>
#include <filesystem>

#include "core/base/cache.h"
#include "core/base/json.h"
#include "core/io/mesh_file.h"

namespace veld {

std::string original_key(std::string_view bytes) {
    CacheKey key;
    key.mix(bytes.data(), bytes.size());
    const std::string name = key.file("kit", "key");
    return name.substr(4, name.size() - 8);
}

Result<Mesh> in_original(const BaseKit& kit, const Points& positions) {
    if (!kit.original) return Error{ErrorCode::BadInput, "This kit was not made from a file: its mesh is its own."};
    const KitOriginal& original = *kit.original;
    const std::string path = (std::filesystem::path(kit.folder) / original.file).string();
    auto bytes = read_file(path);
    if (!bytes) return bytes.error();
    if (original_key(bytes->view()) != original.key)
        return Error{ErrorCode::BadFile, "'" + path + "' was changed since the kit was made. Make the kit again."};
    auto file = read_mesh(path);
    if (!file) return file.error();
    if (file->mesh.positions.size() != original.work_of.size())
        return Error{ErrorCode::BadFile, "'" + path + "' has another number of vertices than the kit remembers."};
    const Similarity back = original.to_kit.inverse();
    for (Index v = 0; v < original.work_of.size(); ++v) file->mesh.positions[v] = back(positions[original.work_of[v]]);
    return std::move(file->mesh);
}

std::string original_text(const KitOriginal& o) {
    const std::vector<double> turn(o.to_kit.rotation.data(), o.to_kit.rotation.data() + 9);  // column by column
    const Vec3& move = o.to_kit.translation;
    return Json{
        {"file", o.file},
        {"key", o.key},
        {"vertices", o.work_of},
        {"to_kit", {{"scale", o.to_kit.scale}, {"rotation", turn}, {"translation", {move.x(), move.y(), move.z()}}}}}
        .dump();
}

KitOriginal original_from(const std::string& text, std::size_t base_vertices, std::string& why) {
    KitOriginal out;
    try {
        const Json json = Json::parse(text);
        out.file = json.at("file").get<std::string>();
        out.key = json.at("key").get<std::string>();
        out.work_of = json.at("vertices").get<std::vector<Index>>();
        const Json& to = json.at("to_kit");
        out.to_kit.scale = to.at("scale").get<double>();
        const auto turn = to.at("rotation").get<std::array<double, 9>>();
        std::copy(turn.begin(), turn.end(), out.to_kit.rotation.data());
        const auto move = to.at("translation").get<std::array<double, 3>>();
        std::copy(move.begin(), move.end(), out.to_kit.translation.data());
    } catch (const std::exception&) {
        why = "'original' is damaged.";
        return {};
    }
    const bool inside =
        std::all_of(out.work_of.begin(), out.work_of.end(), [&](Index v) { return v < base_vertices; });
    if (!inside) why = "'original' names vertices that the base does not have.";
    if (out.file.empty() || out.file.find('/') != std::string::npos || !(out.to_kit.scale > 0) ||
        !out.to_kit.rotation.isUnitary(1e-6) || !out.to_kit.translation.allFinite())
        why = "'original' names no file beside the kit, or turns it into nothing.";
    return out;
}

}  // namespace veld
